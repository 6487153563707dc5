-- What a sign-off reads and writes in the database, as pgbench sends it: what PostgreSQL alone can do here, without Froe in front of it.
SELECT b.package, b.person, b.draft FROM bench_package b WHERE n = (SELECT nextval('bench_package_next')) \gset
BEGIN;
SELECT slip::text AS slip FROM package WHERE id = :package FOR UPDATE \gset
INSERT INTO sign_off (id, package_id, round, seat, person_id, at, statement, remark, for_person, answers) VALUES (gen_random_uuid(), :package, 1, 'seat', :person, now(), repeat('I have looked. ', 12), 'Looked at, fine.', NULL, '[]') RETURNING id AS signed \gset
INSERT INTO verdict (sign_off_id, draft_id, sha256, verdict, reason) SELECT (:signed)::uuid, id, sha256, 'approve', '' FROM draft WHERE id = :draft;
UPDATE package SET slip = (:slip)::jsonb, round = 1, standing = 'in review', item_count = 1 WHERE id = :package;
DELETE FROM awaited WHERE package_id = :package;
INSERT INTO awaited (person_id, package_id, seat, step, since, due, nudge_at) VALUES (:person, :package, 'last', 'last', now(), now() + interval '1 day', now());
INSERT INTO step_passage (package_id, round, step, plan_id, opened_at) VALUES (:package, 1, 'last', NULL, now());
INSERT INTO ledger_entry (chain, sequence, at, person_id, action, reason, payload, before, hash) SELECT (:package)::uuid, s, now(), (:person)::uuid, 'signed', 'Looked at, fine.', repeat('x', 400 / s), sha256('a'), sha256('b') FROM generate_series(1, 3) s;
INSERT INTO request_seen (person_id, key, at, answer) VALUES (:person, gen_random_uuid(), now(), repeat('x', 80));
COMMIT;
