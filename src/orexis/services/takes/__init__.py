"""One take, one life: from its beginning, whatever brings its sound, to the record."""
