-- Pairs of neighbouring signs, by which words of Chinese, Japanese and Korean are found that have but two (WrittenPage); gathered anew where
-- there may be such signs.
ALTER TABLE leaf_text ADD pairs text[] NOT NULL DEFAULT '{}';
CREATE INDEX leaf_text_pairs ON leaf_text USING gin (pairs);
UPDATE draft SET words_version = 0 WHERE words_version > 0 AND id IN (SELECT draft_id FROM leaf_text WHERE folded ~ '[\u3005-\u9fff\uac00-\ud7a3\uf900-\ufaff\U00020000-\U0003ffff]');
