-- Follow-ups: a round that is for some students only, made from a group of findings in another round.
-- depends: 0012-lesson

ALTER TABLE round ADD COLUMN for_ids integer[]; -- nothing: for the whole class
ALTER TABLE round ADD COLUMN follows_id integer REFERENCES round ON DELETE SET NULL;
ALTER TABLE round ADD COLUMN follows_key text;
CREATE INDEX round_follows ON round (follows_id);
