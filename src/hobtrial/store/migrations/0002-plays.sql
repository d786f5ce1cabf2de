-- Games that were played by hand and kept: a script and the scenario that plays the same game again.
-- depends: 0001-records

CREATE TABLE play (
    id integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    version_id integer NOT NULL REFERENCES exercise_version ON DELETE CASCADE,
    source bytea NOT NULL,
    scenario jsonb NOT NULL,
    made_at timestamptz NOT NULL DEFAULT now()
);
