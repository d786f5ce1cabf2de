-- Levels: the version of an exercise that a student has, by a level of theirs in the class or in one round.
-- depends: 0013-follow-ups

ALTER TABLE exercise_version ADD COLUMN level_of integer REFERENCES exercise_version ON DELETE CASCADE;
ALTER TABLE exercise_version ADD COLUMN level text CHECK (level IN ('supported', 'core', 'stretch'));
ALTER TABLE exercise_version ADD CONSTRAINT level_of_a_version CHECK ((level IS NULL) = (level_of IS NULL));
-- A version as a level has it bears the number of the version that it is made from.
ALTER TABLE exercise_version DROP CONSTRAINT exercise_version_exercise_id_number_key;
ALTER TABLE exercise_version DROP CONSTRAINT exercise_version_exercise_id_digest_key;
CREATE UNIQUE INDEX exercise_version_number ON exercise_version (exercise_id, number) WHERE level IS NULL;
CREATE UNIQUE INDEX exercise_version_digest ON exercise_version (exercise_id, digest) WHERE level IS NULL;
CREATE UNIQUE INDEX exercise_version_level ON exercise_version (level_of, level);

ALTER TABLE student ADD COLUMN level text CHECK (level IN ('supported', 'core', 'stretch'));
ALTER TABLE standing ADD COLUMN level text CHECK (level IN ('supported', 'core', 'stretch'));

-- The version that a student of a round has. Most exercises have no levels: then it is the round's own.
CREATE FUNCTION version_for(round_id integer, round_version integer, student integer) RETURNS integer
LANGUAGE sql STABLE PARALLEL SAFE AS $$
    SELECT coalesce((
        SELECT made.id FROM exercise_version AS made
        WHERE made.level_of = round_version AND made.level = coalesce(
            (SELECT standing.level FROM standing WHERE standing.round_id = $1 AND standing.student_id = student),
            (SELECT pupil.level FROM student AS pupil WHERE pupil.id = student),
            'core')
    ), round_version)
$$;
