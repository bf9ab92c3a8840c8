-- By which columns a row that names nobody is known: those of the table that came first. What each column was said to be, as JSON.
ALTER TABLE survey ADD COLUMN key_columns TEXT;
ALTER TABLE survey ADD COLUMN roles TEXT;
UPDATE survey SET key_columns = columns;
