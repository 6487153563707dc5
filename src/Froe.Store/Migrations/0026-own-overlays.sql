-- An overlay may be its owner's alone until they sign; one on which nothing lies may be put away, and its name given to another.
ALTER TABLE overlay
    ADD is_private boolean NOT NULL DEFAULT false,
    ADD removed_at timestamptz,
    -- The round of its package in which it was made: 0 before its draft was sent, nothing where it is not known.
    ADD round integer CHECK (round >= 0);
DROP INDEX overlay_name;
CREATE UNIQUE INDEX overlay_name ON overlay (draft_id, owner, lower(name)) WHERE removed_at IS NULL;
GRANT UPDATE (is_private, removed_at) ON overlay TO froe_app;
