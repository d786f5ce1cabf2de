-- The lesson: who is at what, and what students answer to what was given back.
-- depends: 0011-desk

ALTER TABLE desk ADD COLUMN seen_at timestamptz NOT NULL DEFAULT clock_timestamp();
ALTER TABLE desk ADD COLUMN doing text NOT NULL DEFAULT 'reads'; -- what was seen last: reads, writes, plays, foretells, checks, handed in
ALTER TABLE round ADD COLUMN watches boolean NOT NULL DEFAULT true; -- whether the teacher may open drafts at work
ALTER TABLE submission ADD COLUMN reply text NOT NULL DEFAULT ''; -- the student's one line
CREATE INDEX checked_by_round ON checked (round_id, made_at);
