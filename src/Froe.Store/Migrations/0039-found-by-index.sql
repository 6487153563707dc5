-- An overlay's name is unique only while it is there, so the index of names no longer led to the overlays of a draft: each sign-off,
-- and each row of the register, read all overlays.
CREATE INDEX overlay_draft ON overlay (draft_id);
-- Whether a revision is back with its originator is asked whenever a draft of it is uploaded.
CREATE INDEX package_item_revision ON package_item (revision_id);
-- Advice goes with the note that it was asked about.
CREATE INDEX advice_note ON advice (note_id) WHERE note_id IS NOT NULL;
