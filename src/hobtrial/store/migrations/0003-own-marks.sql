-- A teacher's own mark and comment on a try: beside the computed mark, never over it.
-- depends: 0002-plays

CREATE TABLE own_mark (
    try_id integer PRIMARY KEY REFERENCES try ON DELETE CASCADE,
    marks numeric(7, 1),
    comment text NOT NULL DEFAULT '',
    by text NOT NULL,
    made_at timestamptz NOT NULL DEFAULT now()
);
