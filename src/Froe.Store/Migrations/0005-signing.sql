-- Until the last one, a signature changes a package's slip and nothing that lists look for. With room left on its page, the changed row
-- stays there and none of the table's indexes hears of it.
ALTER TABLE package SET (fillfactor = 50);
