-- Why a draft cannot be set for a class, as it was said of one of its steps: empty where it can, null where nobody asked.
-- depends: 0016-markers

ALTER TABLE draft ADD COLUMN unfit text, ADD COLUMN unfit_at integer;
