-- Texts that could not be marked, through no fault of their own: the machine ended the worker twice, or this program
-- has a fault. No marks are kept; they are tried again when somebody asks for it, or the server starts.
-- depends: 0006-predictions

CREATE TABLE unmarked (
    version_id integer NOT NULL REFERENCES exercise_version ON DELETE CASCADE,
    digest text NOT NULL,
    report jsonb NOT NULL, -- of status "unmarked": whose fault, in words, and the id under which the log has it
    made_at timestamptz NOT NULL DEFAULT clock_timestamp(),
    PRIMARY KEY (version_id, digest)
);

-- Findings as rows are there to be counted, by the key that those of one group share. Reports of the edition
-- before are made again, and with them these rows.
ALTER TABLE report_finding DROP COLUMN about, DROP COLUMN confidence, DROP COLUMN lines, DROP COLUMN checks;
ALTER TABLE report_finding ADD COLUMN key text NOT NULL DEFAULT '';
ALTER TABLE report_finding ALTER COLUMN key DROP DEFAULT;
CREATE INDEX report_finding_by_key ON report_finding (key);

-- Verdicts as rows were written and never read.
DROP TABLE report_check;
