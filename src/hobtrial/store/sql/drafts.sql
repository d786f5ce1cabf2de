-- name: add_draft(slug, teacher_id)^
INSERT INTO draft (slug, teacher_id) VALUES (:slug, :teacher_id) RETURNING id;

-- name: hold_teacher(teacher_id)^
-- One teacher begins one draft at a time, so that they can be counted.
SELECT (SELECT count(*) FROM draft WHERE draft.teacher_id = teacher.id) AS drafts
FROM teacher WHERE id = :teacher_id FOR UPDATE;

-- name: add_blob(draft_id, digest, content)!
INSERT INTO draft_blob (draft_id, digest, content) VALUES (:draft_id, :digest, :content)
ON CONFLICT (draft_id, digest) DO NOTHING;

-- name: add_step(draft_id, number, words, files)!
INSERT INTO draft_step (draft_id, number, words, files) VALUES (:draft_id, :number, :words, :files);

-- name: forget_later(draft_id, number)!
DELETE FROM draft_step WHERE draft_id = :draft_id AND number > :number;

-- name: go_to(draft_id, at)!
UPDATE draft SET at = :at, changed_at = clock_timestamp() WHERE id = :draft_id;

-- name: hold_draft(draft_id)^
-- Nobody else changes it in the meantime.
SELECT id, at FROM draft WHERE id = :draft_id FOR UPDATE;

-- name: one_draft(draft_id)^
SELECT draft.id, draft.slug, draft.at, draft.changed_at, draft_step.words, draft_step.files,
    (SELECT max(number) FROM draft_step AS every WHERE every.draft_id = draft.id) AS last,
    (SELECT words FROM draft_step AS following WHERE following.draft_id = draft.id AND following.number = draft.at + 1) AS next_words
FROM draft JOIN draft_step ON draft_step.draft_id = draft.id AND draft_step.number = draft.at
WHERE draft.id = :draft_id;

-- name: blobs_of(draft_id, digests)
SELECT digest, content FROM draft_blob WHERE draft_id = :draft_id AND digest = ANY(:digests);

-- name: all_drafts(teacher_id)
-- A teacher's drafts; the one that was changed last comes first, each with the text of its settings.
SELECT draft.id, draft.slug, draft.changed_at, draft_blob.content AS settings,
    CASE WHEN draft.unfit_at = draft.at THEN draft.unfit END AS unfit
FROM draft JOIN draft_step ON draft_step.draft_id = draft.id AND draft_step.number = draft.at
LEFT JOIN draft_blob ON draft_blob.draft_id = draft.id AND draft_blob.digest = draft_step.files ->> 'exercise.toml'
WHERE draft.teacher_id = :teacher_id
ORDER BY draft.changed_at DESC, draft.id DESC;

-- name: say_unfit(draft_id, at, unfit)!
UPDATE draft SET unfit = :unfit, unfit_at = :at
WHERE id = :draft_id AND at = :at AND (unfit, unfit_at) IS DISTINCT FROM (:unfit, :at);

-- name: remove_draft(draft_id)!
DELETE FROM draft WHERE id = :draft_id;

-- name: set_proof(draft_id, digest, state, whole)!
INSERT INTO proof (draft_id, digest, state, whole) SELECT id, :digest, :state, :whole FROM draft WHERE id = :draft_id
ON CONFLICT (draft_id) DO UPDATE
SET digest = EXCLUDED.digest, state = EXCLUDED.state, whole = EXCLUDED.whole, beat = EXCLUDED.beat;

-- name: goes_on(draft_id, digest, state, whole)^
-- Notes how far a proof has come; nothing where another one was begun meanwhile.
UPDATE proof SET state = :state, whole = :whole, beat = clock_timestamp()
WHERE draft_id = :draft_id AND digest = :digest
RETURNING draft_id;

-- name: one_proof(draft_id)^
SELECT digest, state, whole, extract(epoch FROM clock_timestamp() - beat)::float8 AS quiet FROM proof WHERE draft_id = :draft_id;
