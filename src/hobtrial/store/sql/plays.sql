-- name: add_play(version_id, source, scenario)^
INSERT INTO play (version_id, source, scenario) VALUES (:version_id, :source, :scenario)
RETURNING id;

-- name: one_play(play_id)^
SELECT id, version_id, source, scenario, made_at FROM play WHERE id = :play_id;

-- name: script_of_try(version_id, try_id)^
-- A try, where its round is of that version.
SELECT try.source FROM try JOIN round ON round.id = try.round_id
WHERE try.id = :try_id AND round.version_id = :version_id;

-- name: starter_of_version(version_id)^
SELECT content AS source FROM exercise_file WHERE version_id = :version_id AND name = 'starter.py';
