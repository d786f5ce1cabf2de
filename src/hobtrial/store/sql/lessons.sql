-- name: set_times(round_id, opens_at, due_at, closes_at, shows_hidden, watches)!
UPDATE round SET opens_at = :opens_at, due_at = :due_at, closes_at = :closes_at, shows_hidden = :shows_hidden, watches = :watches
WHERE id = :round_id;

-- name: set_standing(round_id, student_id, excused, due_at)!
INSERT INTO standing (round_id, student_id, excused, due_at) VALUES (:round_id, :student_id, :excused, :due_at)
ON CONFLICT (round_id, student_id) DO UPDATE SET excused = EXCLUDED.excused, due_at = EXCLUDED.due_at;

-- name: give_back(round_id)!
UPDATE round SET given_back_at = coalesce(given_back_at, now()) WHERE id = :round_id;

-- name: take_back(round_id)!
UPDATE round SET given_back_at = NULL WHERE id = :round_id;

-- name: take_back_from_all(round_id)!
UPDATE standing SET given_back_at = NULL WHERE round_id = :round_id;

-- name: give_back_to(round_id, student_id)!
INSERT INTO standing (round_id, student_id, given_back_at) VALUES (:round_id, :student_id, now())
ON CONFLICT (round_id, student_id) DO UPDATE SET given_back_at = coalesce(standing.given_back_at, now());

-- name: set_reply(submission_id, reply)!
UPDATE submission SET reply = :reply WHERE id = :submission_id;

-- name: everybody(round_id)
-- Everybody whom a round is for: the students of the class, and whoever handed something in before they left it.
SELECT student.id, student.name, student.left_at, coalesce(standing.excused, false) AS excused, standing.due_at,
       coalesce(standing.given_back_at, round.given_back_at) AS given_back_at, desk.seen_at, desk.doing, desk.wants_help_since,
       handed.number, handed.handed_in_at
FROM round
JOIN student ON (student.class_id = round.class_id AND (round.for_ids IS NULL OR student.id = ANY(round.for_ids))) OR EXISTS (
    SELECT FROM submission WHERE submission.round_id = round.id AND submission.student_id = student.id)
LEFT JOIN standing ON standing.round_id = round.id AND standing.student_id = student.id
LEFT JOIN desk ON desk.round_id = round.id AND desk.student_id = student.id
LEFT JOIN LATERAL (
    SELECT number, handed_in_at FROM submission WHERE submission.round_id = round.id AND submission.student_id = student.id
    ORDER BY number DESC LIMIT 1
) AS handed ON true
WHERE round.id = :round_id ORDER BY student.name;

-- name: checked_since(round_id, since)
-- The checks of a lesson, the oldest first: marks, and the findings by key with what a class is told of them.
SELECT checked.student_id, checked.made_at, checked.id,
       coalesce(report.marks, (checked.first ->> 'marks')::numeric) AS marks, coalesce(report.status, checked.first ->> 'status') AS status,
       coalesce(found.keys, '{}') AS keys, coalesce(found.titles, '{}') AS titles, report.id IS NOT NULL AS explained
FROM checked
JOIN round ON round.id = checked.round_id
LEFT JOIN report ON report.version_id = version_for(round.id, round.version_id, checked.student_id) AND report.digest = checked.digest
LEFT JOIN LATERAL (
    SELECT array_agg(report_finding.key ORDER BY report_finding.index) AS keys,
           array_agg(coalesce(report.whole -> 'findings' -> report_finding.index ->> 'for_class', '') ORDER BY report_finding.index) AS titles
    FROM report_finding WHERE report_finding.report_id = report.id
) AS found ON true
WHERE checked.round_id = :round_id AND checked.made_at >= :since
ORDER BY checked.made_at;

-- name: latest_checked(round_id)
-- What each student checked last, with its whole report.
SELECT DISTINCT ON (checked.student_id) checked.id, student.name AS student, checked.source, report.id AS report_id, report.made_at AS report_made_at, NULL AS report FROM checked
JOIN student ON student.id = checked.student_id
JOIN round ON round.id = checked.round_id
LEFT JOIN report ON report.version_id = version_for(round.id, round.version_id, checked.student_id) AND report.digest = checked.digest
WHERE checked.round_id = :round_id
ORDER BY checked.student_id, checked.number DESC;

-- name: one_desk_text(round_id, student_id)^
SELECT desk.source, desk.changed_at, student.name AS student FROM desk JOIN student ON student.id = desk.student_id
WHERE desk.round_id = :round_id AND desk.student_id = :student_id;

-- name: saw(round_id, student_id, doing)!
UPDATE desk SET seen_at = clock_timestamp(), doing = :doing WHERE round_id = :round_id AND student_id = :student_id
    AND (doing <> :doing OR seen_at < clock_timestamp() - interval '3 seconds');

-- name: copy_round(round_id, class_id)^
-- The same exercise for another class, beginning now; a round that is there already stays as it is.
INSERT INTO round (class_id, version_id, shows_hidden, watches)
SELECT :class_id, version_id, shows_hidden, watches FROM round WHERE id = :round_id
ON CONFLICT (class_id, version_id) DO UPDATE SET version_id = EXCLUDED.version_id
RETURNING id;

-- name: sheets(round_id)
-- The last try of each student, with everything that a feedback sheet has.
SELECT DISTINCT ON (student.name) submission.id, submission.number, submission.handed_in_at, submission.source, submission.reply,
       student.id AS student_id, student.name AS student, partner.name AS with_name, class.name AS class,
       version_for(round.id, round.version_id, submission.student_id) AS version_id,
       report.id AS report_id, report.made_at AS report_made_at, unmarked.report, own_mark.marks AS own_marks, own_mark.comment AS own_comment
FROM submission
JOIN student ON student.id = submission.student_id
JOIN round ON round.id = submission.round_id
JOIN class ON class.id = round.class_id
LEFT JOIN student AS partner ON partner.id = submission.with_id
LEFT JOIN report ON report.version_id = version_for(round.id, round.version_id, submission.student_id) AND report.digest = submission.digest
LEFT JOIN unmarked ON unmarked.version_id = version_for(round.id, round.version_id, submission.student_id) AND unmarked.digest = submission.digest
LEFT JOIN own_mark ON own_mark.submission_id = submission.id
WHERE submission.round_id = :round_id
ORDER BY student.name, submission.number DESC;

-- name: ledger_rounds(class_id)
SELECT round.id, exercise_version.title, exercise_version.out_of, round.opened_at, round.due_at, exercise_version.scenarios
FROM round JOIN exercise_version ON exercise_version.id = round.version_id
WHERE round.class_id = :class_id AND round.follows_id IS NULL ORDER BY coalesce(round.opens_at, round.opened_at), round.id;

-- name: ledger_cells(class_id)
-- For each student and round the last try: what it earned, in all and for each concept, and whether it was late.
SELECT DISTINCT ON (submission.round_id, submission.student_id) submission.round_id, submission.student_id, submission.id, submission.number,
       submission.handed_in_at > greatest(round.due_at, standing.due_at) AS late, report.marks, report.out_of, own_mark.marks AS own_marks,
       report.whole -> 'by_concept' AS by_concept, report.status
FROM submission
JOIN round ON round.id = submission.round_id
LEFT JOIN standing ON standing.round_id = round.id AND standing.student_id = submission.student_id
LEFT JOIN report ON report.version_id = version_for(round.id, round.version_id, submission.student_id) AND report.digest = submission.digest
LEFT JOIN own_mark ON own_mark.submission_id = submission.id
WHERE round.class_id = :class_id
ORDER BY submission.round_id, submission.student_id, submission.number DESC;

-- name: ledger_excused(class_id)
SELECT standing.round_id, standing.student_id FROM standing JOIN round ON round.id = standing.round_id
WHERE round.class_id = :class_id AND standing.excused;

-- name: ledger_findings(class_id)
-- How many students of a class had each finding in the last try of each round.
SELECT round_id, report_finding.key, count(DISTINCT student_id) AS students FROM (
    SELECT DISTINCT ON (submission.round_id, submission.student_id) submission.round_id, submission.student_id, submission.digest, round.version_id
    FROM submission JOIN round ON round.id = submission.round_id WHERE round.class_id = :class_id
    ORDER BY submission.round_id, submission.student_id, submission.number DESC
) AS latest
JOIN report ON report.version_id = version_for(latest.round_id, latest.version_id, latest.student_id) AND report.digest = latest.digest
JOIN report_finding ON report_finding.report_id = report.id
GROUP BY round_id, report_finding.key;

-- name: follow(round_id, follows_id, follows_key, student_ids)!
-- Lets a round be a follow-up for some students; those of before stay in it.
UPDATE round SET follows_id = :follows_id, follows_key = :follows_key,
       for_ids = ARRAY(SELECT DISTINCT unnest(coalesce(for_ids, '{}') || :student_ids::integer[]) ORDER BY 1),
       given_back_at = coalesce(given_back_at, now())
WHERE id = :round_id;

-- name: follow_ups(round_id)
-- The follow-ups of a round: for how many, how many of them handed it in, and how many earned every mark.
SELECT round.id, round.follows_key AS key, cardinality(round.for_ids) AS students, count(latest.student_id) AS handed_in,
       count(latest.student_id) FILTER (WHERE report.marks = report.out_of) AS helped
FROM round
LEFT JOIN LATERAL (
    SELECT DISTINCT ON (student_id) student_id, digest FROM submission WHERE submission.round_id = round.id ORDER BY student_id, number DESC
) AS latest ON true
LEFT JOIN report ON report.version_id = version_for(round.id, round.version_id, latest.student_id) AND report.digest = latest.digest
WHERE round.follows_id = :round_id
GROUP BY round.id;
