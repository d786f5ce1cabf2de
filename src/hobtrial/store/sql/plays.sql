-- name: add_play(version_id, source, scenario)^
INSERT INTO play (version_id, source, scenario) VALUES (:version_id, :source, :scenario)
RETURNING id;

-- name: one_play(play_id)^
SELECT id, version_id, source, scenario, made_at FROM play WHERE id = :play_id;

-- name: script_of_submission(version_id, submission_id)^
-- A try, where its round is of that version.
SELECT submission.source FROM submission JOIN round ON round.id = submission.round_id
WHERE submission.id = :submission_id AND round.version_id = :version_id;

-- name: starter_of_version(version_id)^
SELECT content AS source FROM exercise_file WHERE version_id = :version_id AND name = 'starter.py';
