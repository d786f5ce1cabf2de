-- name: begin(token, teacher_id, student_id, seconds)!
INSERT INTO session (token, teacher_id, student_id, ends_at)
VALUES (:token, :teacher_id, :student_id, now() + make_interval(secs => :seconds));

-- name: who(token)^
-- Whose a session is, while it lasts. Who left, and the students of a class that is put away, have none.
SELECT session.teacher_id, session.student_id, coalesce(teacher.name, student.name) AS name,
       coalesce(teacher.owner, false) AS owner, student.class_id, class.name AS class
FROM session
LEFT JOIN teacher ON teacher.id = session.teacher_id
LEFT JOIN student ON student.id = session.student_id
LEFT JOIN class ON class.id = student.class_id
WHERE session.token = :token AND session.ends_at > now() AND student.left_at IS NULL AND class.put_away_at IS NULL;

-- name: end_one(token)!
DELETE FROM session WHERE token = :token;

-- name: end_teacher(teacher_id, but)!
-- All sessions of a teacher but one.
DELETE FROM session WHERE teacher_id = :teacher_id AND token <> :but;

-- name: end_student(student_id)!
DELETE FROM session WHERE student_id = :student_id;

-- name: end_class(class_id)!
DELETE FROM session USING student WHERE session.student_id = student.id AND student.class_id = :class_id;

-- name: forget_ended()!
DELETE FROM session WHERE ends_at < now();

-- name: note_tries(keys)
INSERT INTO sign_in_try (key) SELECT unnest(:keys::text[]) RETURNING id;

-- name: count_tries(keys, seconds)
SELECT key, count(*) AS tries FROM sign_in_try
WHERE key = ANY(:keys) AND at > clock_timestamp() - make_interval(secs => :seconds) GROUP BY key;

-- name: forget_tries(ids)!
DELETE FROM sign_in_try WHERE id = ANY(:ids);

-- name: forget_old_tries(seconds)!
DELETE FROM sign_in_try WHERE at < clock_timestamp() - make_interval(secs => :seconds);

-- name: add_first_link(token, seconds)!
INSERT INTO first_link (token, ends_at) VALUES (:token, now() + make_interval(secs => :seconds));

-- name: use_first_link(token)^
DELETE FROM first_link WHERE token = :token AND ends_at > now() RETURNING token;

-- name: forget_first_links()!
DELETE FROM first_link;
