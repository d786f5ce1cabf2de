-- name: add_play(version_id, source, scenario, put, teacher_id)^
INSERT INTO play (version_id, source, scenario, put, teacher_id) VALUES (:version_id, :source, :scenario, :put, :teacher_id)
RETURNING id;

-- name: one_play(play_id)^
SELECT id, version_id, source, scenario, put, made_at FROM play WHERE id = :play_id;

-- name: script_of_submission(version_id, submission_id, teacher_id)^
-- A try of a teacher's class, where its round is of that version.
SELECT submission.source FROM submission JOIN round ON round.id = submission.round_id
JOIN class_teacher ON class_teacher.class_id = round.class_id
WHERE submission.id = :submission_id AND version_for(round.id, round.version_id, submission.student_id) = :version_id AND class_teacher.teacher_id = :teacher_id;

-- name: starter_of_version(version_id)^
SELECT content AS source FROM exercise_file WHERE version_id = :version_id AND name = 'starter.py';
