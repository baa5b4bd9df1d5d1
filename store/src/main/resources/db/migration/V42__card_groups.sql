-- By which groups of its own the cards of a book were sorted last: a digest, as nothing of a group is kept; empty for none.
ALTER TABLE book ADD groups text NOT NULL DEFAULT '';
-- Books that have some are read anew: who is in one that is private is nobody else's business.
UPDATE source SET cursor = '' WHERE id IN (SELECT source FROM card WHERE why = 'GROUP');
