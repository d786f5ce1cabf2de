-- What somebody predicted before seeing a run: for a try and a scenario, the value of each name as it was written.
-- depends: 0005-withdrawn

CREATE TABLE prediction (
    try_id integer NOT NULL REFERENCES try ON DELETE CASCADE,
    scenario integer NOT NULL,
    guesses jsonb NOT NULL,
    by text NOT NULL,
    made_at timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (try_id, scenario)
);
