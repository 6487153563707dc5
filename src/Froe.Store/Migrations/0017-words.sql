-- Words in one form: lower case, with spaces, as people read them.
UPDATE package SET standing = 'in review', slip = jsonb_set(slip, '{standing}', '"inReview"') WHERE standing = 'running';
UPDATE verdict SET verdict = CASE verdict WHEN 'approveAsNoted' THEN 'approve as noted' ELSE 'return for changes' END WHERE verdict IN ('approveAsNoted', 'returnForChanges');
UPDATE note SET answer = 'done differently' WHERE answer = 'doneDifferently';
UPDATE note_act SET act = 'done differently' WHERE act = 'doneDifferently';
UPDATE group_right SET right_name = lower(regexp_replace(right_name, '([A-Z])', ' \1', 'g')) WHERE right_name <> lower(right_name);
UPDATE post_hours SET mode = lower(regexp_replace(mode, '([A-Z])', ' \1', 'g')) WHERE mode <> lower(mode);
-- A chain is the ledger's; folders have standings in order.
ALTER TABLE folder RENAME chain TO standings;
