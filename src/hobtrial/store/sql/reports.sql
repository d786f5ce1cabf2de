-- name: source_by_digest(digest)^
SELECT source, file_name FROM try WHERE digest = :digest ORDER BY id LIMIT 1;

-- name: has_report(version_id, digest)^
SELECT id FROM report WHERE version_id = :version_id AND digest = :digest;

-- name: add_report(version_id, digest, status, marks, out_of, whole, made_by)^
-- Nothing where another worker was first: a mark is written once.
INSERT INTO report (version_id, digest, status, marks, out_of, whole, made_by)
VALUES (:version_id, :digest, :status, :marks, :out_of, :whole, :made_by)
ON CONFLICT (version_id, digest) DO NOTHING
RETURNING id;

-- name: forget_older(made_by)!
DELETE FROM report WHERE made_by < :made_by;

-- name: add_check(report_id, scenario, place, verdict, marks, out_of)*!
INSERT INTO report_check (report_id, scenario, place, verdict, marks, out_of)
VALUES (:report_id, :scenario, :place, :verdict, :marks, :out_of);

-- name: add_finding(report_id, place, slip, about, confidence, lines, checks, marks_lost)*!
INSERT INTO report_finding (report_id, place, slip, about, confidence, lines, checks, marks_lost)
VALUES (:report_id, :place, :slip, :about, :confidence, :lines, :checks, :marks_lost);
