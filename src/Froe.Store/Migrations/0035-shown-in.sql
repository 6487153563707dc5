-- Which models show what a document is about, where somebody said so: numbers on sheets and in models tell the rest.
CREATE TABLE document_shown (
    document_id uuid NOT NULL REFERENCES document,
    model_id    uuid NOT NULL REFERENCES document CHECK (model_id <> document_id),
    -- Number or name of the components in it; empty for all of the model.
    component   text NOT NULL CHECK (length(component) <= 200),
    person_id   uuid NOT NULL REFERENCES person,
    at          timestamptz NOT NULL,
    PRIMARY KEY (document_id, model_id)
);
CREATE INDEX document_shown_model ON document_shown (model_id);
GRANT SELECT, INSERT, DELETE ON document_shown TO froe_app;
GRANT UPDATE (component, person_id, at) ON document_shown TO froe_app;
