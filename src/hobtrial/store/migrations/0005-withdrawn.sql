-- Findings that a teacher has withdrawn: for one student, or (student_id NULL) for a whole group. By their key, not by
-- their try, so that a later try or a newer report does not bring them back.
-- depends: 0004-renewed-rounds

CREATE TABLE withdrawn (
    id integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    round_id integer NOT NULL REFERENCES round ON DELETE CASCADE,
    student_id integer REFERENCES student ON DELETE CASCADE,
    key text NOT NULL,
    by text NOT NULL,
    made_at timestamptz NOT NULL DEFAULT now(),
    UNIQUE NULLS NOT DISTINCT (round_id, student_id, key)
);
