-- The change order that a package carries out is part of its slip, which its ledger tells; here it can be searched and sorted by.
ALTER TABLE package ADD COLUMN change_order text NOT NULL GENERATED ALWAYS AS (coalesce(slip -> 'facts' ->> 'changeOrder', '')) STORED;
CREATE INDEX package_change_order ON package (sent_at DESC) WHERE change_order <> '';
CREATE INDEX package_change_order_words ON package USING gin (change_order gin_trgm_ops);
ALTER TABLE prepared_package ADD COLUMN change_order text NOT NULL DEFAULT '';
