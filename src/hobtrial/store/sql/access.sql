-- Whether somebody may see a thing: a row, or none. Each has the same two parameters, so that one table can name them.

-- name: teacher_class(person, thing)^
SELECT class_id FROM class_teacher WHERE teacher_id = :person AND class_id = :thing;

-- name: teacher_round(person, thing)^
SELECT round.id FROM round JOIN class_teacher ON class_teacher.class_id = round.class_id
WHERE class_teacher.teacher_id = :person AND round.id = :thing;

-- name: teacher_submission(person, thing)^
SELECT submission.id FROM submission
JOIN round ON round.id = submission.round_id
JOIN class_teacher ON class_teacher.class_id = round.class_id
WHERE class_teacher.teacher_id = :person AND submission.id = :thing;

-- name: teacher_checked(person, thing)^
SELECT checked.id FROM checked
JOIN round ON round.id = checked.round_id
JOIN class_teacher ON class_teacher.class_id = round.class_id
WHERE class_teacher.teacher_id = :person AND checked.id = :thing;

-- name: student_checked(person, thing)^
SELECT id FROM checked WHERE student_id = :person AND id = :thing;

-- name: teacher_student(person, thing)^
SELECT student.id FROM student JOIN class_teacher ON class_teacher.class_id = student.class_id
WHERE class_teacher.teacher_id = :person AND student.id = :thing;

-- name: teacher_draft(person, thing)^
SELECT id FROM draft WHERE teacher_id = :person AND id = :thing;

-- name: teacher_play(person, thing)^
SELECT id FROM play WHERE teacher_id = :person AND id = :thing;

-- name: teacher_version(person, thing)^
-- Exercises belong to the school.
SELECT exercise_version.id FROM exercise_version JOIN teacher ON teacher.id = :person
WHERE exercise_version.id = :thing;

-- name: teacher_teacher(person, thing)^
-- Every teacher sees the names of the others.
SELECT other.id FROM teacher JOIN teacher AS other ON other.id = :thing WHERE teacher.id = :person;

-- name: student_round(person, thing)^
SELECT round.id FROM round JOIN student ON student.class_id = round.class_id
WHERE student.id = :person AND round.id = :thing AND (round.opens_at IS NULL OR round.opens_at <= now())
  AND (round.for_ids IS NULL OR student.id = ANY(round.for_ids));

-- name: student_submission(person, thing)^
SELECT id FROM submission WHERE student_id = :person AND id = :thing;
