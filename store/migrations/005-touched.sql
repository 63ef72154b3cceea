-- What probe or clamp touched at the battery: the post's own lead or the cable's lug; a bad post lies between the two.
ALTER TABLE readings ADD COLUMN touched TEXT CHECK (touched IN ('post', 'lug'));
