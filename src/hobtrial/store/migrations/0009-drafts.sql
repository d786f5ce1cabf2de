-- Drafts of exercises with their history. A step holds which bytes each file had; equal bytes are kept once.

CREATE TABLE draft (
    id integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    slug text NOT NULL,
    at integer NOT NULL DEFAULT 0, -- the step that is shown; later ones were undone
    made_at timestamptz NOT NULL DEFAULT now(),
    changed_at timestamptz NOT NULL DEFAULT now()
);

CREATE TABLE draft_blob (
    draft_id integer NOT NULL REFERENCES draft ON DELETE CASCADE,
    digest text NOT NULL,
    content bytea NOT NULL,
    PRIMARY KEY (draft_id, digest)
);

CREATE TABLE draft_step (
    draft_id integer NOT NULL REFERENCES draft ON DELETE CASCADE,
    number integer NOT NULL,
    words text NOT NULL,
    files jsonb NOT NULL,
    made_at timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (draft_id, number)
);
