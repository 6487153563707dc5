-- The ledger is read as a whole: newest first, and by who acted.
CREATE INDEX ledger_at ON ledger_entry (at, chain, sequence);
CREATE INDEX ledger_person ON ledger_entry (person_id, at, chain, sequence);

ALTER TABLE saved_view DROP CONSTRAINT saved_view_list_check;
ALTER TABLE saved_view ADD CONSTRAINT saved_view_list_check CHECK (list IN ('register', 'monitor', 'requests', 'ledger'));

-- The acts of the office and on plans are few among very many (OfficeActs).
CREATE INDEX ledger_office ON ledger_entry (at, chain, sequence) WHERE action IN
    ('rights given', 'group made', 'group changed', 'group removed', 'person added', 'person changed', 'absence entered', 'deputy named', 'absence removed', 'calendar made', 'calendar changed', 'calendar removed', 'folder made', 'folder moved', 'folder removed', 'chain of standings set');
CREATE INDEX ledger_plan ON ledger_entry (at, chain, sequence) WHERE action IN ('plan published', 'plan handed over');
