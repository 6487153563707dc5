-- Seals over the ledger (Froe.Core.Ledger.Seal): made now and then, inserted only.
CREATE TABLE ledger_seal (
    number      bigint PRIMARY KEY,
    at          timestamptz NOT NULL,
    heads       bigint NOT NULL,
    -- Whether every chain was looked at, not only those with late entries.
    looked_at_all boolean NOT NULL,
    root        bytea NOT NULL,
    before      bytea NOT NULL,
    hash        bytea NOT NULL,
    -- Over the hash; null where the server has no key. The key is its certificate's SHA-256.
    signature   bytea,
    key         text
);
CREATE TABLE ledger_seal_head (
    chain    uuid NOT NULL,
    sequence bigint NOT NULL,
    seal     bigint NOT NULL REFERENCES ledger_seal DEFERRABLE INITIALLY DEFERRED,
    hash     bytea NOT NULL,
    PRIMARY KEY (chain, sequence)
);
CREATE INDEX ledger_seal_head_seal ON ledger_seal_head (seal, chain);
GRANT SELECT, INSERT ON ledger_seal, ledger_seal_head TO froe_app;
