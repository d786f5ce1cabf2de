-- What marks: each server or worker that takes texts from the queue says here what it is, and what it does.
-- depends: 0015-proofs

CREATE TABLE marker (
    id integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    name text NOT NULL,
    processes integer NOT NULL,
    begun_at timestamptz NOT NULL DEFAULT clock_timestamp(),
    beat timestamptz NOT NULL DEFAULT clock_timestamp(), -- when it said so last
    doing integer NOT NULL DEFAULT 0, -- texts that it marks just now
    done integer NOT NULL DEFAULT 0,
    last_error text NOT NULL DEFAULT '',
    stopped boolean NOT NULL DEFAULT false -- by the owner, who may let it go on
);
