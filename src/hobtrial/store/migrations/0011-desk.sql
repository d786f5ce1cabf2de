-- The desk: what students write, check, foretell and ask; and the times of a round.
-- depends: 0010-people

ALTER TABLE play ADD COLUMN put jsonb NOT NULL DEFAULT '[]'; -- what was put in place by hand: frame and line

ALTER TABLE round ADD COLUMN opens_at timestamptz;  -- nothing: at once
ALTER TABLE round ADD COLUMN due_at timestamptz;    -- what is handed in later is late
ALTER TABLE round ADD COLUMN closes_at timestamptz; -- from then on nothing is handed in
ALTER TABLE round ADD COLUMN shows_hidden boolean NOT NULL DEFAULT false; -- hidden results, once handed in
-- Marks and findings are given back when the teacher says so. Rounds from before have given back all along.
ALTER TABLE round ADD COLUMN given_back_at timestamptz;
UPDATE round SET given_back_at = opened_at;

-- What is different for one student of a round.
CREATE TABLE standing (
    round_id integer NOT NULL REFERENCES round ON DELETE CASCADE,
    student_id integer NOT NULL REFERENCES student ON DELETE CASCADE,
    excused boolean NOT NULL DEFAULT false,
    due_at timestamptz, -- a later date; the round stays open for them as long
    given_back_at timestamptz,
    PRIMARY KEY (round_id, student_id)
);

-- A student's text in a round, as it was kept last. `at` counts, so that the later of two windows is told.
CREATE TABLE desk (
    round_id integer NOT NULL REFERENCES round ON DELETE CASCADE,
    student_id integer NOT NULL REFERENCES student ON DELETE CASCADE,
    source bytea NOT NULL,
    at integer NOT NULL DEFAULT 1,
    changed_at timestamptz NOT NULL DEFAULT clock_timestamp(),
    with_id integer REFERENCES student ON DELETE SET NULL, -- who works here, too
    wants_help_since timestamptz,
    PRIMARY KEY (round_id, student_id)
);

-- Texts that were checked at a desk, each different one once in a row.
CREATE TABLE checked (
    id integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    round_id integer NOT NULL REFERENCES round ON DELETE CASCADE,
    student_id integer NOT NULL REFERENCES student ON DELETE CASCADE,
    number integer NOT NULL,
    source bytea NOT NULL,
    digest text NOT NULL,
    made_at timestamptz NOT NULL DEFAULT clock_timestamp(),
    first jsonb, -- the report without explanations, which is there at once
    first_by integer, -- the edition of the marking that made it
    small jsonb, -- for each scenario what its small strip needs
    UNIQUE (round_id, student_id, number)
);
CREATE INDEX checked_by_digest ON checked (digest);
CREATE INDEX checked_by_student ON checked (student_id);

-- What a student expected of a scenario before they saw it, and with which text.
CREATE TABLE guess (
    round_id integer NOT NULL REFERENCES round ON DELETE CASCADE,
    student_id integer NOT NULL REFERENCES student ON DELETE CASCADE,
    scenario integer NOT NULL,
    digest text NOT NULL,
    guesses jsonb NOT NULL,
    made_at timestamptz NOT NULL DEFAULT clock_timestamp(),
    PRIMARY KEY (round_id, student_id, scenario, digest)
);

-- Steps of help that a student asked for: 1 the nudge, 2 the pointer, 3 the fix.
CREATE TABLE help_step (
    id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    round_id integer NOT NULL REFERENCES round ON DELETE CASCADE,
    student_id integer NOT NULL REFERENCES student ON DELETE CASCADE,
    key text NOT NULL,
    step smallint NOT NULL CHECK (step BETWEEN 1 AND 3),
    asked_at timestamptz NOT NULL DEFAULT clock_timestamp()
);
CREATE UNIQUE INDEX help_step_once ON help_step (round_id, student_id, md5(key), step);

ALTER TABLE submission ADD COLUMN with_id integer REFERENCES student ON DELETE SET NULL; -- the other owner
