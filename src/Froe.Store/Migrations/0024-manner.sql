-- How somebody reads dates; nobody's row is everybody's usual way.
CREATE TABLE date_manner (
    person_id   uuid PRIMARY KEY REFERENCES person,
    -- A language tag (RFC 5646); empty for the words of the pages themselves.
    language    text NOT NULL CHECK (length(language) <= 35),
    hours       text NOT NULL CHECK (hours IN ('by language', 'twelve', 'twenty four')),
    week_begins text NOT NULL CHECK (week_begins IN ('by language', 'monday', 'saturday', 'sunday'))
);
GRANT SELECT, INSERT, UPDATE ON date_manner TO froe_app;
-- Packages and documents that somebody wants at hand.
CREATE TABLE pin (
    person_id   uuid NOT NULL REFERENCES person,
    package_id  uuid REFERENCES package,
    document_id uuid REFERENCES document,
    at          timestamptz NOT NULL,
    CHECK (num_nonnulls(package_id, document_id) = 1),
    UNIQUE NULLS NOT DISTINCT (person_id, package_id, document_id)
);
GRANT SELECT, INSERT, DELETE ON pin TO froe_app;
-- Views are kept under the names that the places bear.
ALTER TABLE saved_view DROP CONSTRAINT saved_view_list_check;
UPDATE saved_view SET list = CASE list WHEN 'monitor' THEN 'turnaround' WHEN 'requests' THEN 'notes' ELSE list END;
ALTER TABLE saved_view ADD CONSTRAINT saved_view_list_check CHECK (list IN ('desk', 'register', 'turnaround', 'notes', 'ledger', 'post'));
