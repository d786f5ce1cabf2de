-- name: one_desk(round_id, student_id)^
SELECT desk.source, desk.at, desk.changed_at, desk.wants_help_since, desk.with_id, partner.name AS with_name
FROM desk LEFT JOIN student AS partner ON partner.id = desk.with_id
WHERE desk.round_id = :round_id AND desk.student_id = :student_id;

-- name: begin_desk(round_id, student_id, source)!
INSERT INTO desk (round_id, student_id, source) VALUES (:round_id, :student_id, :source) ON CONFLICT DO NOTHING;

-- name: keep_text(round_id, student_id, at, source)^
-- Nothing where the text was kept from another window since.
UPDATE desk SET source = :source, at = at + 1, changed_at = clock_timestamp()
WHERE round_id = :round_id AND student_id = :student_id AND at = :at
RETURNING at;

-- name: last_checked(round_id, student_id)^
SELECT id, number, digest FROM checked WHERE round_id = :round_id AND student_id = :student_id
ORDER BY number DESC LIMIT 1;

-- name: hold_student(student_id)!
-- Two checks of one student come one after the other.
SELECT id FROM student WHERE id = :student_id FOR NO KEY UPDATE;

-- name: add_checked(round_id, student_id, source, digest)^
INSERT INTO checked (round_id, student_id, number, source, digest)
SELECT :round_id, :student_id, coalesce(max(number), 0) + 1, :source, :digest
FROM checked WHERE round_id = :round_id AND student_id = :student_id
RETURNING id, number;

-- name: set_first(checked_id, first, first_by, small)!
UPDATE checked SET first = :first, first_by = :first_by, small = :small WHERE id = :checked_id;

-- name: one_checked(checked_id)^
SELECT checked.id, checked.round_id, checked.student_id, checked.number, checked.source, checked.digest, checked.made_at,
       checked.first, checked.first_by, checked.small, version_for(round.id, round.version_id, checked.student_id) AS version_id, student.name AS student,
       report.id AS report_id, report.made_at AS report_made_at, unmarked.report
FROM checked
JOIN round ON round.id = checked.round_id
JOIN student ON student.id = checked.student_id
LEFT JOIN report ON report.version_id = version_for(round.id, round.version_id, checked.student_id) AND report.digest = checked.digest
LEFT JOIN unmarked ON unmarked.version_id = version_for(round.id, round.version_id, checked.student_id) AND unmarked.digest = checked.digest
WHERE checked.id = :checked_id;

-- name: state_of_checked(checked_id, patience)^
-- One text for all that a text that was checked is shown with: another one as soon as any row of it was written.
-- Nothing of one that is not marked yet, or not explained though that was asked for long ago.
SELECT md5(concat_ws('|', round.xmin::text, version_for(round.id, round.version_id, checked.student_id),
    (SELECT string_agg(concat_ws(':', each.id, each.xmin::text, report.id, report.made_at, unmarked.made_at), ',' ORDER BY each.id)
     FROM checked AS each
     LEFT JOIN report ON report.version_id = version_for(round.id, round.version_id, checked.student_id) AND report.digest = each.digest
     LEFT JOIN unmarked ON unmarked.version_id = version_for(round.id, round.version_id, checked.student_id) AND unmarked.digest = each.digest
     WHERE each.round_id = checked.round_id AND each.student_id = checked.student_id),
    (SELECT string_agg(guess.xmin::text, ',' ORDER BY guess.scenario, guess.digest) FROM guess
     WHERE guess.round_id = checked.round_id AND guess.student_id = checked.student_id),
    (SELECT string_agg(help_step.xmin::text, ',' ORDER BY help_step.id) FROM help_step
     WHERE help_step.round_id = checked.round_id AND help_step.student_id = checked.student_id)
)) AS state
FROM checked
JOIN round ON round.id = checked.round_id
LEFT JOIN report ON report.version_id = version_for(round.id, round.version_id, checked.student_id) AND report.digest = checked.digest
WHERE checked.id = :checked_id AND checked.small IS NOT NULL
    AND (report.id IS NOT NULL OR checked.made_at > clock_timestamp() - make_interval(secs => :patience));

-- name: checked_of(round_id, student_id)
-- What a student checked, the oldest first; without the texts.
SELECT checked.id, checked.number, checked.made_at, checked.digest, report.id AS report_id, report.made_at AS report_made_at, NULL AS report, checked.first,
       checked.first_by, checked.small
FROM checked
JOIN round ON round.id = checked.round_id
LEFT JOIN report ON report.version_id = version_for(round.id, round.version_id, checked.student_id) AND report.digest = checked.digest
WHERE checked.round_id = :round_id AND checked.student_id = :student_id
ORDER BY checked.number;

-- name: is_wanted(version_id, digest)^
-- Whether the report of a text is still waited for: it was handed in, or it is the last that somebody checked.
SELECT submission.id FROM submission JOIN round ON round.id = submission.round_id
WHERE submission.digest = :digest AND version_for(round.id, round.version_id, submission.student_id) = :version_id
UNION ALL
SELECT mine.id FROM checked AS mine JOIN round ON round.id = mine.round_id
WHERE mine.digest = :digest AND version_for(round.id, round.version_id, mine.student_id) = :version_id AND NOT EXISTS (
    SELECT FROM checked AS newer
    WHERE newer.round_id = mine.round_id AND newer.student_id = mine.student_id AND newer.number > mine.number)
LIMIT 1;

-- name: add_step(round_id, student_id, key, step)!
INSERT INTO help_step (round_id, student_id, key, step) VALUES (:round_id, :student_id, :key, :step) ON CONFLICT DO NOTHING;

-- name: steps(round_id, student_id)
SELECT key, max(step) AS step FROM help_step WHERE round_id = :round_id AND student_id = :student_id GROUP BY key;

-- name: ask_for_help(round_id, student_id)!
UPDATE desk SET wants_help_since = coalesce(wants_help_since, clock_timestamp())
WHERE round_id = :round_id AND student_id = :student_id;

-- name: take_back_asking(round_id, student_id)!
UPDATE desk SET wants_help_since = NULL WHERE round_id = :round_id AND student_id = :student_id;

-- name: line(round_id)
-- Who waits for help, longest first.
SELECT desk.student_id, student.name AS student, desk.wants_help_since FROM desk
JOIN student ON student.id = desk.student_id
WHERE desk.round_id = :round_id AND desk.wants_help_since IS NOT NULL AND student.left_at IS NULL
ORDER BY desk.wants_help_since, desk.student_id;

-- name: set_guess(round_id, student_id, scenario, digest, guesses)!
INSERT INTO guess (round_id, student_id, scenario, digest, guesses)
VALUES (:round_id, :student_id, :scenario, :digest, :guesses)
ON CONFLICT DO NOTHING;

-- name: guesses(round_id, student_id)
-- The oldest first.
SELECT scenario, digest, guesses, made_at FROM guess WHERE round_id = :round_id AND student_id = :student_id ORDER BY made_at;

-- name: take_guesses_along(submission_id)!
-- What was expected of a text stands with the try in which it is handed in.
INSERT INTO prediction (submission_id, scenario, guesses, by, made_at)
SELECT submission.id, guess.scenario, guess.guesses, student.name, guess.made_at FROM submission
JOIN student ON student.id = submission.student_id
JOIN LATERAL (
    SELECT DISTINCT ON (scenario) scenario, guesses, made_at FROM guess
    WHERE guess.round_id = submission.round_id AND guess.student_id = submission.student_id AND guess.digest = submission.digest
    ORDER BY scenario, made_at DESC
) AS guess ON true
WHERE submission.id = :submission_id
ON CONFLICT (submission_id, scenario) DO NOTHING;

-- name: set_partner(round_id, student_id, with_id)!
UPDATE desk SET with_id = :with_id WHERE round_id = :round_id AND student_id = :student_id;

-- name: set_shared(submission_id, with_id)!
UPDATE submission SET with_id = :with_id WHERE id = :submission_id;

-- name: times(round_id, student_id)^
-- When a round opens, from when on one is late, and when it closes, for one student.
SELECT round.opens_at, greatest(round.due_at, standing.due_at) AS due_at, greatest(round.closes_at, standing.due_at) AS closes_at,
       coalesce(standing.excused, false) AS excused, round.shows_hidden,
       coalesce(standing.given_back_at, round.given_back_at) AS given_back_at
FROM round LEFT JOIN standing ON standing.round_id = round.id AND standing.student_id = :student_id
WHERE round.id = :round_id;

-- name: date_checked_back(checked_id, minutes)!
UPDATE checked SET made_at = made_at - make_interval(secs => 60.0 * :minutes) WHERE id = :checked_id;

-- name: date_desk_back(round_id, student_id, minutes, asked, doing)!
UPDATE desk SET seen_at = seen_at - make_interval(secs => 60.0 * :minutes), doing = :doing,
       wants_help_since = CASE WHEN :asked::float8 IS NULL THEN NULL ELSE now() - make_interval(secs => 60.0 * :asked) END
WHERE round_id = :round_id AND student_id = :student_id;

-- name: date_submission_back(submission_id, minutes)!
UPDATE submission SET handed_in_at = handed_in_at - make_interval(secs => 60.0 * :minutes) WHERE id = :submission_id;
