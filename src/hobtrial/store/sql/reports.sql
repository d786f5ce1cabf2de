-- name: source_by_digest(digest)^
-- The bytes of a text, from whoever handed it in or checked it.
(SELECT source, file_name FROM submission WHERE digest = :digest ORDER BY id LIMIT 1)
UNION ALL
(SELECT source, 'desk.py' FROM checked WHERE digest = :digest ORDER BY id LIMIT 1)
LIMIT 1;

-- name: has_report(version_id, digest)^
SELECT id FROM report WHERE version_id = :version_id AND digest = :digest;

-- name: add_report(version_id, digest, status, marks, out_of, whole, made_by)^
-- Nothing where another worker was first: a mark is written once. Nothing where a newer edition has been here, either.
INSERT INTO report (version_id, digest, status, marks, out_of, whole, made_by)
SELECT :version_id, :digest, :status, :marks, :out_of, :whole, :made_by
WHERE NOT EXISTS (SELECT FROM edition WHERE number > :made_by)
ON CONFLICT (version_id, digest) DO NOTHING
RETURNING id;

-- name: forget_older(made_by)!
DELETE FROM report WHERE made_by < :made_by;

-- name: add_finding(report_id, index, slip, key, marks_lost)*!
INSERT INTO report_finding (report_id, index, slip, key, marks_lost)
VALUES (:report_id, :index, :slip, :key, :marks_lost);

-- name: add_unmarked(version_id, digest, report)!
INSERT INTO unmarked (version_id, digest, report) VALUES (:version_id, :digest, :report)
ON CONFLICT (version_id, digest) DO UPDATE SET report = EXCLUDED.report, made_at = EXCLUDED.made_at;

-- name: forget_unmarked(version_id, digest)!
DELETE FROM unmarked WHERE version_id = :version_id AND digest = :digest;

-- name: forget_all_unmarked()!
DELETE FROM unmarked;

-- name: forget_one(version_id, digest)!
DELETE FROM report WHERE version_id = :version_id AND digest = :digest;

-- name: raise_edition(made_by)^
-- The newest edition that has worked on these records, this one counted.
INSERT INTO edition (number) VALUES (:made_by)
ON CONFLICT (only_one) DO UPDATE SET number = greatest(edition.number, EXCLUDED.number)
RETURNING number;

-- name: wholes(report_ids)
SELECT id, made_at, whole FROM report WHERE id = ANY(:report_ids::integer[]);
