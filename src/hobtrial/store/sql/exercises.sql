-- name: add_exercise(slug, author_id)^
-- The exercise of that slug, made if it is not there.
INSERT INTO exercise (slug, author_id) VALUES (:slug, :author_id)
ON CONFLICT (slug) DO UPDATE SET slug = EXCLUDED.slug
RETURNING id;

-- name: version_by_digest(exercise_id, digest)^
SELECT id FROM exercise_version WHERE exercise_id = :exercise_id AND digest = :digest AND level IS NULL;

-- name: version_of_slug(slug, digest)^
SELECT exercise_version.id FROM exercise_version JOIN exercise ON exercise.id = exercise_version.exercise_id
WHERE exercise.slug = :slug AND exercise_version.digest = :digest AND exercise_version.level IS NULL;

-- name: add_version(exercise_id, digest, title, out_of, seconds, scenarios)^
-- The next version of an exercise.
INSERT INTO exercise_version (exercise_id, number, digest, title, out_of, seconds, scenarios)
SELECT :exercise_id, coalesce(max(number), 0) + 1, :digest, :title, :out_of, :seconds, :scenarios
FROM exercise_version WHERE exercise_id = :exercise_id AND level IS NULL
RETURNING id;

-- name: add_level(version_id, level, digest, title, out_of, seconds, scenarios)^
-- A version as a level has it; nothing where it is there.
INSERT INTO exercise_version (exercise_id, number, digest, title, out_of, seconds, scenarios, level_of, level)
SELECT exercise_id, number, :digest, :title, :out_of, :seconds, :scenarios, id, :level FROM exercise_version WHERE id = :version_id
ON CONFLICT DO NOTHING
RETURNING id;

-- name: levels_of(version_id)
SELECT level FROM exercise_version WHERE level_of = :version_id
ORDER BY array_position(ARRAY['supported', 'core', 'stretch'], level);

-- name: add_file(version_id, name, content)!
INSERT INTO exercise_file (version_id, name, content) VALUES (:version_id, :name, :content);

-- name: digest_of_version(version_id)^
SELECT digest FROM exercise_version WHERE id = :version_id;

-- name: files_of_version(version_id)
SELECT name, content FROM exercise_file WHERE version_id = :version_id ORDER BY name;

-- name: newest_versions()
-- In the order in which the exercises were made; those that were made for a follow-up are none to choose from.
SELECT exercise_id, version_id, version_number, title, out_of, scenarios, concepts FROM (
    SELECT DISTINCT ON (exercise_id) exercise_id, id AS version_id, number AS version_number, title, out_of, jsonb_array_length(scenarios) AS scenarios,
           ARRAY(SELECT DISTINCT checks ->> 'concept' FROM jsonb_path_query(exercise_version.scenarios, '$[*].checks[*]') AS checks
                 WHERE checks ->> 'concept' IS NOT NULL) AS concepts
    FROM exercise_version WHERE level IS NULL AND NOT EXISTS (
        SELECT FROM exercise WHERE exercise.id = exercise_version.exercise_id AND starts_with(slug, 'follow-up-'))
    ORDER BY exercise_id, number DESC
) AS newest
ORDER BY exercise_id;

-- name: version_there(version_id)^
SELECT id, level FROM exercise_version WHERE id = :version_id;

-- name: slug_of_version(version_id)^
SELECT slug, author_id FROM exercise JOIN exercise_version ON exercise_version.exercise_id = exercise.id
WHERE exercise_version.id = :version_id;
