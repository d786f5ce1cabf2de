-- name: add_teacher(name, password, owner)^
INSERT INTO teacher (name, password, owner) VALUES (:name, :password, :owner)
ON CONFLICT DO NOTHING
RETURNING id;

-- name: any_teacher()^
SELECT id FROM teacher LIMIT 1;

-- name: lock_teachers()!
-- Two first teachers at once: one is first.
LOCK TABLE teacher IN SHARE ROW EXCLUSIVE MODE;

-- name: all_teachers()
SELECT teacher.id, teacher.name, teacher.owner, teacher.made_at, count(class_teacher.class_id) AS classes
FROM teacher LEFT JOIN class_teacher ON class_teacher.teacher_id = teacher.id
GROUP BY teacher.id ORDER BY lower(teacher.name);

-- name: teacher_by_name(name)^
SELECT id, name, password, owner FROM teacher WHERE lower(name) = lower(:name);

-- name: one_teacher(teacher_id)^
SELECT id, name, password, owner FROM teacher WHERE id = :teacher_id;

-- name: set_password(teacher_id, password)!
UPDATE teacher SET password = :password WHERE id = :teacher_id;

-- name: make_owner(teacher_id)!
UPDATE teacher SET owner = true WHERE id = :teacher_id;

-- name: claim_classes(teacher_id)!
-- Classes that belong to nobody.
INSERT INTO class_teacher (class_id, teacher_id)
SELECT class.id, :teacher_id FROM class
WHERE NOT EXISTS (SELECT FROM class_teacher WHERE class_teacher.class_id = class.id);

-- name: claim_drafts(teacher_id)!
UPDATE draft SET teacher_id = :teacher_id WHERE teacher_id IS NULL;

-- name: claim_plays(teacher_id)!
UPDATE play SET teacher_id = :teacher_id WHERE teacher_id IS NULL;

-- name: hand_over_drafts(teacher_id, to_id)!
UPDATE draft SET teacher_id = :to_id WHERE teacher_id = :teacher_id;

-- name: remove_teacher(teacher_id)!
DELETE FROM teacher WHERE id = :teacher_id;

-- name: own_class_by_name(name, teacher_id)^
-- A class of a teacher by its name; where no teacher is given, one that belongs to nobody.
SELECT class.id FROM class
WHERE class.name = :name AND class.put_away_at IS NULL AND CASE
    WHEN :teacher_id::integer IS NULL THEN NOT EXISTS (SELECT FROM class_teacher WHERE class_id = class.id)
    ELSE EXISTS (SELECT FROM class_teacher WHERE class_id = class.id AND teacher_id = :teacher_id)
END
ORDER BY class.id LIMIT 1;

-- name: hold_teacher(teacher_id)^
SELECT id FROM teacher WHERE id = :teacher_id FOR UPDATE;

-- name: add_class(name)^
INSERT INTO class (name) VALUES (:name) RETURNING id;

-- name: add_class_teacher(class_id, teacher_id)!
INSERT INTO class_teacher (class_id, teacher_id) VALUES (:class_id, :teacher_id) ON CONFLICT DO NOTHING;

-- name: drop_class_teacher(class_id, teacher_id)!
DELETE FROM class_teacher WHERE class_id = :class_id AND teacher_id = :teacher_id;

-- name: teachers_of(class_id)
SELECT teacher.id, teacher.name FROM teacher JOIN class_teacher ON class_teacher.teacher_id = teacher.id
WHERE class_teacher.class_id = :class_id ORDER BY lower(teacher.name);

-- name: classes_of(teacher_id)
-- With how many students and rounds each has; those that are put away come last.
SELECT class.id, class.name, class.word, class.put_away_at,
       (SELECT count(*) FROM student WHERE student.class_id = class.id AND student.left_at IS NULL) AS students,
       (SELECT count(*) FROM round WHERE round.class_id = class.id) AS rounds
FROM class JOIN class_teacher ON class_teacher.class_id = class.id
WHERE class_teacher.teacher_id = :teacher_id
ORDER BY class.put_away_at IS NOT NULL, class.name, class.id;

-- name: one_class(class_id)^
SELECT id, name, word, salt, source_id, put_away_at FROM class WHERE id = :class_id;

-- name: class_by_word(word)^
SELECT id, salt FROM class WHERE word = :word AND put_away_at IS NULL;

-- name: class_by_source(source_id, teacher_id)^
SELECT class.id FROM class JOIN class_teacher ON class_teacher.class_id = class.id
WHERE class.source_id = :source_id AND class_teacher.teacher_id = :teacher_id AND class.put_away_at IS NULL;

-- name: taken_words()
SELECT word FROM class WHERE word IS NOT NULL;

-- name: set_word(class_id, word)!
UPDATE class SET word = :word WHERE id = :class_id AND word IS NULL;

-- name: rename_class(class_id, name)!
UPDATE class SET name = :name WHERE id = :class_id;

-- name: set_class_source(class_id, source_id)!
UPDATE class SET source_id = :source_id WHERE id = :class_id;

-- name: put_away(class_id)!
UPDATE class SET put_away_at = coalesce(put_away_at, now()) WHERE id = :class_id;

-- name: bring_back(class_id)!
UPDATE class SET put_away_at = NULL WHERE id = :class_id;

-- name: remove_class(class_id)!
DELETE FROM class WHERE id = :class_id;

-- name: students_of(class_id)
-- With how many tries each has handed in.
SELECT student.id, student.name, student.card IS NOT NULL AS has_card, student.card_made_at, student.left_at, student.source_id, student.level,
       (SELECT count(*) FROM submission WHERE submission.student_id = student.id) AS tries
FROM student WHERE student.class_id = :class_id ORDER BY student.left_at IS NOT NULL, student.name;

-- name: one_student(student_id)^
SELECT student.id, student.name, student.class_id, student.left_at, student.level, class.name AS class,
       ARRAY(SELECT DISTINCT level FROM standing WHERE standing.student_id = student.id AND level IS NOT NULL) AS levels_in_rounds
FROM student JOIN class ON class.id = student.class_id WHERE student.id = :student_id;

-- name: add_students(class_id, names)!
INSERT INTO student (class_id, name) SELECT :class_id, unnest(:names::text[])
ON CONFLICT (class_id, name) DO UPDATE SET left_at = NULL;

-- name: student_ids(class_id, names)
SELECT id, name FROM student WHERE class_id = :class_id AND name = ANY(:names);

-- name: rename_student(student_id, name)!
UPDATE student SET name = :name WHERE id = :student_id;

-- name: set_student_source(student_id, source_id)!
UPDATE student SET source_id = :source_id WHERE id = :student_id;

-- name: move_student(student_id, class_id)!
-- A card belongs to a class, so it ends.
UPDATE student SET class_id = :class_id, card = NULL, card_made_at = NULL WHERE id = :student_id;

-- name: set_left(student_id, left)!
-- Whoever leaves has no card any more.
UPDATE student SET left_at = CASE WHEN :left THEN coalesce(left_at, now()) END,
                   card = CASE WHEN :left THEN NULL ELSE card END
WHERE id = :student_id;

-- name: set_card(class_id, student_id, card)!
-- Not of somebody who left meanwhile, or moved.
UPDATE student SET card = :card, card_made_at = now()
WHERE id = :student_id AND class_id = :class_id AND left_at IS NULL;

-- name: student_by_card(class_id, card)^
SELECT id, name FROM student WHERE class_id = :class_id AND card = :card AND left_at IS NULL;

-- name: remove_student(student_id)!
DELETE FROM student WHERE id = :student_id;

-- name: texts_of_student(student_id)
-- Version and hash of everything that a student handed in.
SELECT version_for(round.id, round.version_id, submission.student_id) AS version_id, submission.digest FROM submission JOIN round ON round.id = submission.round_id
WHERE submission.student_id = :student_id
UNION
SELECT version_for(round.id, round.version_id, checked.student_id) AS version_id, checked.digest FROM checked JOIN round ON round.id = checked.round_id
WHERE checked.student_id = :student_id;

-- name: texts_of_class(class_id)
SELECT version_for(round.id, round.version_id, submission.student_id) AS version_id, submission.digest FROM submission JOIN round ON round.id = submission.round_id
WHERE round.class_id = :class_id OR submission.student_id IN (SELECT id FROM student WHERE class_id = :class_id)
UNION
SELECT version_for(round.id, round.version_id, checked.student_id) AS version_id, checked.digest FROM checked JOIN round ON round.id = checked.round_id
WHERE round.class_id = :class_id OR checked.student_id IN (SELECT id FROM student WHERE class_id = :class_id);

-- name: remove_students_of(class_id)!
-- Also what they handed in while they were in another class.
DELETE FROM student WHERE class_id = :class_id;

-- name: forget_orphans(version_ids, digests)!
-- Reports of texts that nobody has handed in any more.
DELETE FROM report USING unnest(:version_ids::integer[], :digests::text[]) AS gone (version_id, digest)
WHERE report.version_id = gone.version_id AND report.digest = gone.digest AND NOT EXISTS (
    SELECT FROM submission JOIN round ON round.id = submission.round_id
    WHERE submission.digest = gone.digest AND gone.version_id IN (version_for(round.id, round.version_id, submission.student_id), version_for(round.id, round.previous_version_id, submission.student_id)))
AND NOT EXISTS (SELECT FROM checked WHERE checked.digest = gone.digest);

-- name: forget_orphans_unmarked(version_ids, digests)!
DELETE FROM unmarked USING unnest(:version_ids::integer[], :digests::text[]) AS gone (version_id, digest)
WHERE unmarked.version_id = gone.version_id AND unmarked.digest = gone.digest AND NOT EXISTS (
    SELECT FROM submission JOIN round ON round.id = submission.round_id
    WHERE submission.digest = gone.digest AND gone.version_id = version_for(round.id, round.version_id, submission.student_id))
AND NOT EXISTS (SELECT FROM checked WHERE checked.digest = gone.digest);

-- name: whole_student(student_id)
-- Everything that a student handed in, with what was said of it.
SELECT submission.id, exercise_version.title, exercise_version.number AS version, class.name AS class, submission.number,
       submission.file_name, submission.source, submission.handed_in_at, report.whole AS report, report.marks, report.out_of,
       own_mark.marks AS own_marks, own_mark.comment, own_mark.by AS marked_by
FROM submission
JOIN round ON round.id = submission.round_id
JOIN class ON class.id = round.class_id
JOIN exercise_version ON exercise_version.id = round.version_id
LEFT JOIN report ON report.version_id = version_for(round.id, round.version_id, submission.student_id) AND report.digest = submission.digest
LEFT JOIN own_mark ON own_mark.submission_id = submission.id
WHERE submission.student_id = :student_id
ORDER BY submission.handed_in_at, submission.id;

-- name: predictions_of_student(student_id)
SELECT prediction.submission_id, prediction.scenario, prediction.guesses, prediction.made_at FROM prediction
JOIN submission ON submission.id = prediction.submission_id
WHERE submission.student_id = :student_id ORDER BY prediction.submission_id, prediction.scenario;

-- name: old_texts(months)
SELECT version_for(round.id, round.version_id, submission.student_id) AS version_id, submission.digest FROM submission JOIN round ON round.id = submission.round_id
WHERE submission.handed_in_at < now() - make_interval(months => :months)
UNION
SELECT version_for(round.id, round.version_id, checked.student_id) AS version_id, checked.digest FROM checked JOIN round ON round.id = checked.round_id
WHERE checked.made_at < now() - make_interval(months => :months);

-- name: forget_old_desks(months)!
-- What is older at the desks: texts that were checked, and those that nobody has written on since.
WITH old AS (SELECT now() - make_interval(months => :months) AS day),
     texts AS (DELETE FROM checked USING old WHERE made_at < day),
     guesses AS (DELETE FROM guess USING old WHERE made_at < day),
     steps AS (DELETE FROM help_step USING old WHERE asked_at < day)
DELETE FROM desk USING old WHERE changed_at < day;

-- name: forget_old_submissions(months)!
DELETE FROM submission WHERE handed_in_at < now() - make_interval(months => :months);

-- name: old_classes(months)
SELECT id FROM class WHERE put_away_at < now() - make_interval(months => :months);

-- name: forget_old_students(months)!
-- Those who left so long ago and have nothing kept of them.
DELETE FROM student WHERE left_at < now() - make_interval(months => :months)
    AND NOT EXISTS (SELECT FROM submission WHERE submission.student_id = student.id);

-- name: forget_old_plays(months)!
DELETE FROM play WHERE made_at < now() - make_interval(months => :months);

-- name: desks_of_student(student_id)
-- What a student has at their desks: the text of each round, and what they checked.
SELECT exercise_version.title, class.name AS class, desk.source, desk.changed_at AS at, 'at the desk' AS what, NULL::jsonb AS report
FROM desk JOIN round ON round.id = desk.round_id JOIN class ON class.id = round.class_id
JOIN exercise_version ON exercise_version.id = round.version_id
WHERE desk.student_id = :student_id
UNION ALL
SELECT exercise_version.title, class.name, checked.source, checked.made_at, 'check ' || checked.number, coalesce(report.whole, checked.first)
FROM checked JOIN round ON round.id = checked.round_id JOIN class ON class.id = round.class_id
JOIN exercise_version ON exercise_version.id = round.version_id
LEFT JOIN report ON report.version_id = version_for(round.id, round.version_id, checked.student_id) AND report.digest = checked.digest
WHERE checked.student_id = :student_id
ORDER BY at;

-- name: asked_by_student(student_id)
-- What a student expected of scenarios, and the steps of help that they asked for.
SELECT exercise_version.title, guess.made_at AS at, 'scenario ' || (guess.scenario + 1) || ' expected' AS what, guess.guesses AS words
FROM guess JOIN round ON round.id = guess.round_id JOIN exercise_version ON exercise_version.id = round.version_id
WHERE guess.student_id = :student_id
UNION ALL
SELECT exercise_version.title, help_step.asked_at, 'step ' || help_step.step || ' of help', to_jsonb(help_step.key)
FROM help_step JOIN round ON round.id = help_step.round_id JOIN exercise_version ON exercise_version.id = round.version_id
WHERE help_step.student_id = :student_id
ORDER BY at;

-- name: set_student_level(student_id, level)!
UPDATE student SET level = :level WHERE id = :student_id;

-- name: rounds_for_student(student_id)
SELECT round.id FROM round JOIN student ON student.class_id = round.class_id WHERE student.id = :student_id;
