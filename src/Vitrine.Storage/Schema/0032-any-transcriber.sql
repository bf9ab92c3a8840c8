-- A third who writes transcripts: a program that is named when the server is started. A check constraint is changed as SQLite says
-- (lang_altertable, 7: changes that do not affect what is on disk).
PRAGMA writable_schema = ON;
UPDATE sqlite_schema SET sql = replace(sql, '''simulated'', ''pocketsphinx''', '''simulated'', ''pocketsphinx'', ''program''')
WHERE type = 'table' AND name = 'source';
PRAGMA writable_schema = RESET;
