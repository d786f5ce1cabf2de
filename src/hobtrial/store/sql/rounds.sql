-- name: add_round(class_id, version_id)^
INSERT INTO round (class_id, version_id) VALUES (:class_id, :version_id)
ON CONFLICT (class_id, version_id) DO UPDATE SET version_id = EXCLUDED.version_id
RETURNING id;

-- name: last_submission(round_id, student_id)^
SELECT id, digest FROM submission WHERE round_id = :round_id AND student_id = :student_id ORDER BY number DESC LIMIT 1;

-- name: add_submission(round_id, student_id, file_name, source, digest)^
INSERT INTO submission (round_id, student_id, number, file_name, source, digest)
SELECT :round_id, :student_id, coalesce(max(number), 0) + 1, :file_name, :source, :digest
FROM submission WHERE round_id = :round_id AND student_id = :student_id
RETURNING id;

-- name: all_rounds(teacher_id)
-- Each round of a teacher's classes with how far its marking is: the last try of each student counts.
SELECT round.id, exercise_version.exercise_id, exercise_version.title, exercise_version.number AS version_number,
       exercise_version.out_of, class.name AS class,
       round.opened_at, count(latest.id) AS scripts, count(report.id) + count(unmarked.digest) AS marked, avg(report.marks) AS mean,
       coalesce(array_agg(report.marks ORDER BY report.marks) FILTER (WHERE report.id IS NOT NULL), '{}') AS spread
FROM round
JOIN exercise_version ON exercise_version.id = round.version_id
JOIN class ON class.id = round.class_id
LEFT JOIN LATERAL (
    SELECT DISTINCT ON (student_id) id, student_id, digest FROM submission WHERE submission.round_id = round.id ORDER BY student_id, number DESC
) AS latest ON true
LEFT JOIN report ON report.version_id = version_for(round.id, round.version_id, latest.student_id) AND report.digest = latest.digest
LEFT JOIN unmarked ON unmarked.version_id = version_for(round.id, round.version_id, latest.student_id) AND unmarked.digest = latest.digest
WHERE class.put_away_at IS NULL AND EXISTS (SELECT FROM class_teacher WHERE class_id = class.id AND teacher_id = :teacher_id)
GROUP BY round.id, exercise_version.id, class.id
ORDER BY round.opened_at DESC;

-- name: one_round(round_id)^
SELECT round.id, round.version_id, exercise_version.title, exercise_version.number AS version_number, exercise_version.out_of,
       exercise_version.seconds, exercise_version.scenarios, class.name AS class, round.class_id, round.opened_at, round.marking_since,
       round.previous_version_id, round.opens_at, round.due_at, round.closes_at, round.shows_hidden, round.watches, round.given_back_at
FROM round
JOIN exercise_version ON exercise_version.id = round.version_id
JOIN class ON class.id = round.class_id
WHERE round.id = :round_id;

-- name: latest_submissions(round_id)
-- The last try of each student of a round, with its report where it is made.
SELECT DISTINCT ON (student.name) submission.id, submission.number, submission.digest, student.name AS student,
       report.id AS report_id, report.made_at AS report_made_at, unmarked.report, coalesce(report.made_at, unmarked.made_at) AS made_at,
       own_mark.marks AS own_marks, submission.student_id, submission.handed_in_at, submission.reply, partner.name AS with_name
FROM submission
LEFT JOIN student AS partner ON partner.id = submission.with_id
JOIN student ON student.id = submission.student_id
JOIN round ON round.id = submission.round_id
LEFT JOIN report ON report.version_id = version_for(round.id, round.version_id, submission.student_id) AND report.digest = submission.digest
LEFT JOIN unmarked ON unmarked.version_id = version_for(round.id, round.version_id, submission.student_id) AND unmarked.digest = submission.digest
LEFT JOIN own_mark ON own_mark.submission_id = submission.id
WHERE submission.round_id = :round_id
ORDER BY student.name, submission.number DESC;

-- name: one_submission(submission_id)^
SELECT submission.id, submission.round_id, submission.student_id, submission.number, submission.handed_in_at, submission.source, submission.digest, student.name AS student,
       version_for(round.id, round.version_id, submission.student_id) AS version_id, partner.name AS with_name, submission.reply, class.name AS class,
       report.id AS report_id, report.made_at AS report_made_at, unmarked.report, own_mark.marks AS own_marks, own_mark.comment AS own_comment, own_mark.by AS own_by,
       own_mark.made_at AS own_at
FROM submission
JOIN student ON student.id = submission.student_id
LEFT JOIN student AS partner ON partner.id = submission.with_id
JOIN round ON round.id = submission.round_id
JOIN class ON class.id = round.class_id
LEFT JOIN report ON report.version_id = version_for(round.id, round.version_id, submission.student_id) AND report.digest = submission.digest
LEFT JOIN unmarked ON unmarked.version_id = version_for(round.id, round.version_id, submission.student_id) AND unmarked.digest = submission.digest
LEFT JOIN own_mark ON own_mark.submission_id = submission.id
WHERE submission.id = :submission_id;

-- name: others_with(round_id, submission_id)
-- For each key of a finding how many other students of a round have it in their last try.
SELECT report_finding.key, count(DISTINCT latest.student_id) AS others FROM round
JOIN LATERAL (
    SELECT DISTINCT ON (student_id) student_id, digest FROM submission WHERE submission.round_id = round.id ORDER BY student_id, number DESC
) AS latest ON true
JOIN report ON report.version_id = version_for(round.id, round.version_id, latest.student_id) AND report.digest = latest.digest
JOIN report_finding ON report_finding.report_id = report.id
WHERE round.id = :round_id AND latest.student_id <> (SELECT student_id FROM submission WHERE id = :submission_id)
GROUP BY report_finding.key;

-- name: neighbours(round_id)
-- The last try of each student of a round, by name.
SELECT DISTINCT ON (student.name) submission.id, student.name AS student FROM submission
JOIN student ON student.id = submission.student_id
WHERE submission.round_id = :round_id
ORDER BY student.name, submission.number DESC;

-- name: unmarked(round_id)
-- Texts of a round that wait to be marked, each once.
SELECT DISTINCT version_for(round.id, round.version_id, submission.student_id) AS version_id, submission.digest FROM submission
JOIN round ON round.id = submission.round_id
LEFT JOIN report ON report.version_id = version_for(round.id, round.version_id, submission.student_id) AND report.digest = submission.digest
LEFT JOIN unmarked ON unmarked.version_id = version_for(round.id, round.version_id, submission.student_id) AND unmarked.digest = submission.digest
WHERE submission.round_id = :round_id AND report.id IS NULL AND unmarked.digest IS NULL;

-- name: all_unmarked()
-- Texts of all rounds that wait to be marked, each once a version.
SELECT DISTINCT version_for(round.id, round.version_id, submission.student_id) AS version_id, submission.digest FROM submission
JOIN round ON round.id = submission.round_id
LEFT JOIN report ON report.version_id = version_for(round.id, round.version_id, submission.student_id) AND report.digest = submission.digest
LEFT JOIN unmarked ON unmarked.version_id = version_for(round.id, round.version_id, submission.student_id) AND unmarked.digest = submission.digest
WHERE report.id IS NULL AND unmarked.digest IS NULL;

-- name: forget_reports(round_id)!
-- Takes away the reports of a round's texts, so that they are made again.
DELETE FROM report USING round, submission
WHERE round.id = :round_id AND submission.round_id = round.id AND report.version_id = version_for(round.id, round.version_id, submission.student_id) AND report.digest = submission.digest;

-- name: forget_unmarked_of(round_id)!
-- What could not be marked in a round is tried again.
DELETE FROM unmarked USING round, submission
WHERE round.id = :round_id AND submission.round_id = round.id
  AND unmarked.version_id = version_for(round.id, round.version_id, submission.student_id) AND unmarked.digest = submission.digest;

-- name: marking_begins(round_id)!
UPDATE round SET marking_since = clock_timestamp() WHERE id = :round_id;

-- name: set_own(submission_id, marks, comment, by)!
INSERT INTO own_mark (submission_id, marks, comment, by) VALUES (:submission_id, :marks, :comment, :by)
ON CONFLICT (submission_id) DO UPDATE SET marks = EXCLUDED.marks, comment = EXCLUDED.comment, by = EXCLUDED.by, made_at = now();

-- name: forget_own(submission_id)!
DELETE FROM own_mark WHERE submission_id = :submission_id;

-- name: newest_version(version_id)^
-- The newest version of the exercise that a version belongs to.
SELECT newest.id, newest.number FROM exercise_version AS mine
JOIN exercise_version AS newest ON newest.exercise_id = mine.exercise_id AND newest.level IS NULL
WHERE mine.id = :version_id ORDER BY newest.number DESC LIMIT 1;

-- name: other_round(round_id, version_id)^
-- The round of the same class at another version.
SELECT other.id FROM round AS mine JOIN round AS other ON other.class_id = mine.class_id
WHERE mine.id = :round_id AND other.version_id = :version_id;

-- name: renew_round(round_id, version_id)!
UPDATE round SET previous_version_id = version_id, version_id = :version_id, marking_since = clock_timestamp()
WHERE id = :round_id;

-- name: reports_before(round_id)
-- The reports of the last tries with the version before.
SELECT latest.id, report.id AS report_id, report.made_at AS report_made_at, NULL AS report FROM round
JOIN LATERAL (
    SELECT DISTINCT ON (student_id) id, student_id, digest FROM submission WHERE submission.round_id = round.id ORDER BY student_id, number DESC
) AS latest ON true
JOIN report ON report.version_id = version_for(round.id, round.previous_version_id, latest.student_id) AND report.digest = latest.digest
WHERE round.id = :round_id;

-- name: withdrawn(round_id)
-- Keys of the findings that are withdrawn, each with the student, or none for everybody.
SELECT withdrawn.key, student.name AS student FROM withdrawn LEFT JOIN student ON student.id = withdrawn.student_id
WHERE withdrawn.round_id = :round_id;

-- name: withdraw(round_id, submission_id, key, by)!
-- For the student of a try; for everybody where there is no try.
INSERT INTO withdrawn (round_id, student_id, key, by)
VALUES (:round_id, (SELECT student_id FROM submission WHERE id = :submission_id), :key, :by)
ON CONFLICT DO NOTHING;

-- name: put_back(round_id, submission_id, key)!
-- For the student of a try; for everybody where there is no try.
DELETE FROM withdrawn
WHERE round_id = :round_id AND md5(key) = md5(:key) AND key = :key
  AND student_id IS NOT DISTINCT FROM (SELECT student_id FROM submission WHERE id = :submission_id);

-- name: submission_before(submission_id)^
-- The try of the same student before a try, with its report.
SELECT earlier.id, earlier.number, earlier.source, report.id AS report_id, report.made_at AS report_made_at, NULL AS report FROM submission AS mine
JOIN submission AS earlier ON earlier.round_id = mine.round_id AND earlier.student_id = mine.student_id
JOIN round ON round.id = mine.round_id
LEFT JOIN report ON report.version_id = version_for(round.id, round.version_id, earlier.student_id) AND report.digest = earlier.digest
WHERE mine.id = :submission_id AND earlier.number < mine.number
ORDER BY earlier.number DESC LIMIT 1;

-- name: date_back(round_id, days)!
UPDATE round SET opened_at = opened_at - make_interval(days => :days) WHERE id = :round_id;

-- name: set_prediction(submission_id, scenario, guesses, by)!
INSERT INTO prediction (submission_id, scenario, guesses, by) VALUES (:submission_id, :scenario, :guesses, :by)
ON CONFLICT (submission_id, scenario) DO UPDATE SET guesses = EXCLUDED.guesses, by = EXCLUDED.by, made_at = now();

-- name: predictions(round_id)
SELECT prediction.submission_id, prediction.scenario, prediction.guesses FROM prediction
JOIN submission ON submission.id = prediction.submission_id
WHERE submission.round_id = :round_id;

-- name: rounds_of_student(student_id)
-- The rounds of a student's class, the newest first.
SELECT round.id, exercise_version.title, exercise_version.out_of, round.opened_at, round.opens_at,
       greatest(round.due_at, standing.due_at) AS due_at, greatest(round.closes_at, standing.due_at) AS closes_at,
       coalesce(standing.excused, false) AS excused, coalesce(standing.given_back_at, round.given_back_at) AS given_back_at
FROM round
JOIN student ON student.class_id = round.class_id
JOIN exercise_version ON exercise_version.id = version_for(round.id, round.version_id, student.id)
LEFT JOIN standing ON standing.round_id = round.id AND standing.student_id = student.id
WHERE student.id = :student_id AND (round.opens_at IS NULL OR round.opens_at <= now())
  AND (round.for_ids IS NULL OR student.id = ANY(round.for_ids))
ORDER BY coalesce(round.opens_at, round.opened_at) DESC;

-- name: tries_of_student(student_id, round_id)
-- All tries of a student in the rounds of their class, or in one of them, with the report where it is made.
SELECT submission.id, submission.round_id, submission.number, submission.handed_in_at, partner.name AS with_name,
       report.id AS report_id, report.made_at AS report_made_at, unmarked.report, own_mark.marks AS own_marks
FROM submission
LEFT JOIN student AS partner ON partner.id = submission.with_id
JOIN round ON round.id = submission.round_id
LEFT JOIN report ON report.version_id = version_for(round.id, round.version_id, submission.student_id) AND report.digest = submission.digest
LEFT JOIN unmarked ON unmarked.version_id = version_for(round.id, round.version_id, submission.student_id) AND unmarked.digest = submission.digest
LEFT JOIN own_mark ON own_mark.submission_id = submission.id
WHERE submission.student_id = :student_id AND (:round_id::integer IS NULL OR submission.round_id = :round_id)
ORDER BY submission.round_id, submission.number;

-- name: rounds_of_class(class_id)
SELECT round.id, exercise_version.title, exercise_version.out_of, round.opened_at FROM round
JOIN exercise_version ON exercise_version.id = round.version_id
WHERE round.class_id = :class_id ORDER BY round.opened_at, round.id;

-- name: version_for(round_id, student_id)^
-- The version of a round that a student has, by their level.
SELECT version_for(id, version_id, :student_id) AS version_id FROM round WHERE id = :round_id;

-- name: set_level(round_id, student_id, level)!
-- Nothing: the level that the student has in the class.
INSERT INTO standing (round_id, student_id, level) VALUES (:round_id, :student_id, :level)
ON CONFLICT (round_id, student_id) DO UPDATE SET level = EXCLUDED.level;

-- name: levels_of_everybody(round_id)
-- The level of each student: in this round, and in the class.
SELECT student.id AS student_id, student.name AS student, standing.level, student.level AS in_class FROM round
JOIN student ON student.class_id = round.class_id AND (round.for_ids IS NULL OR student.id = ANY(round.for_ids))
LEFT JOIN standing ON standing.round_id = round.id AND standing.student_id = student.id
WHERE round.id = :round_id AND student.left_at IS NULL ORDER BY student.name;

-- name: state(round_id)^
-- One text for all that the page of a round is made of: another one as soon as any row of it was written.
SELECT md5(concat_ws('|', round.xmin::text, class.xmin::text,
    (SELECT max(newest.id) FROM exercise_version AS mine
     JOIN exercise_version AS newest ON newest.exercise_id = mine.exercise_id AND newest.level IS NULL WHERE mine.id = round.version_id),
    (SELECT string_agg(concat_ws(':', submission.id, submission.xmin::text, report.id, report.made_at, unmarked.made_at, own_mark.xmin::text), ','
                       ORDER BY submission.id)
     FROM submission
     LEFT JOIN report ON report.version_id = version_for(round.id, round.version_id, submission.student_id) AND report.digest = submission.digest
     LEFT JOIN unmarked ON unmarked.version_id = version_for(round.id, round.version_id, submission.student_id)
         AND unmarked.digest = submission.digest
     LEFT JOIN own_mark ON own_mark.submission_id = submission.id WHERE submission.round_id = round.id),
    (SELECT string_agg(concat_ws(':', report.id, report.made_at), ',' ORDER BY report.id) FROM submission
     JOIN report ON report.version_id = version_for(round.id, round.previous_version_id, submission.student_id)
         AND report.digest = submission.digest WHERE submission.round_id = round.id),
    (SELECT string_agg(withdrawn.xmin::text, ',' ORDER BY md5(key), student_id) FROM withdrawn WHERE withdrawn.round_id = round.id),
    (SELECT string_agg(prediction.xmin::text, ',' ORDER BY submission_id, scenario) FROM prediction
     JOIN submission ON submission.id = prediction.submission_id WHERE submission.round_id = round.id),
    (SELECT string_agg(standing.xmin::text, ',' ORDER BY student_id) FROM standing WHERE standing.round_id = round.id),
    (SELECT string_agg(student.id || ':' || student.xmin::text, ',' ORDER BY student.id) FROM student WHERE student.class_id = round.class_id),
    (SELECT string_agg(student_id::text, ',' ORDER BY student_id) FROM desk WHERE desk.round_id = round.id),
    (SELECT string_agg(concat_ws(':', follow.id, follow.xmin::text, submission.id, report.id), ',' ORDER BY follow.id, submission.id)
     FROM round AS follow
     LEFT JOIN submission ON submission.round_id = follow.id
     LEFT JOIN report ON report.version_id = version_for(follow.id, follow.version_id, submission.student_id) AND report.digest = submission.digest
     WHERE follow.follows_id = round.id)
)) AS state
FROM round JOIN class ON class.id = round.class_id WHERE round.id = :round_id;
