-- Kana of both widths and both ways of writing their marks are compared as one: what was gathered before is gathered anew.
UPDATE draft SET words_version = 0 WHERE words_version > 0;
