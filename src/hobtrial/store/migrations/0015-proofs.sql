-- How far the proof of a draft has come, so that every process of a server can show it.
-- depends: 0014-levels

CREATE TABLE proof (
    draft_id integer PRIMARY KEY REFERENCES draft ON DELETE CASCADE,
    digest text NOT NULL, -- of the files that it is about
    state text NOT NULL,
    whole jsonb NOT NULL,
    beat timestamptz NOT NULL DEFAULT clock_timestamp() -- when the process that proves said so last
);
