-- What of each sheet each person has had before them at a legible size. There is a row only where they have seen something.
CREATE TABLE seen (
    person_id uuid NOT NULL REFERENCES person,
    draft_id  uuid NOT NULL,
    position  int NOT NULL,
    -- The reader's version that prepared what they saw: another may divide the sheet otherwise, or show more of it.
    version   int NOT NULL,
    -- A bit for each patch of the sheet, along its rows from the upper left.
    patches   bit varying(4096) NOT NULL,
    PRIMARY KEY (person_id, draft_id, position),
    FOREIGN KEY (draft_id, position) REFERENCES draft_leaf
);
CREATE INDEX seen_leaf ON seen (draft_id, position);
GRANT SELECT, INSERT, UPDATE ON seen TO froe_app;
-- What of an item the signer had seen, in hundredths, where the step asked for it.
ALTER TABLE verdict ADD seen smallint CHECK (seen BETWEEN 0 AND 100);
