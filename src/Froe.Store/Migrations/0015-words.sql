-- What the sender writes over a package is its covering note; a note is a thread on a draft.
ALTER TABLE package RENAME note TO covering_note;
ALTER TABLE prepared_package RENAME note TO covering_note;
