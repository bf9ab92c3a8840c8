-- Signs that nobody sees (soft hyphens, spaces of no width) hide no word from the search: it is made of texts without them.
DROP TABLE source_search;
CREATE VIEW searched_text AS
SELECT id, replace(replace(replace(replace(replace(replace(text, char(173), ''), char(8203), ''), char(8204), ''), char(8205), ''),
  char(8288), ''), char(65279), '') AS text
FROM source_text;
CREATE VIRTUAL TABLE source_search USING fts5 (text, content = 'searched_text', content_rowid = 'id', prefix = '2 3',
  tokenize = 'porter unicode61 remove_diacritics 2');
INSERT INTO source_search (source_search) VALUES ('rebuild');
-- Names and words are filled in anew at the start.
DELETE FROM searchable;
