"""Sentences: the one place where what the core says becomes words, in the reader's English and units."""

from rough_draw.text.reader import Reader, reader_of, reading_as
from rough_draw.text.say import kept, say, say_all, told

__all__ = ["Reader", "kept", "reader_of", "reading_as", "say", "say_all", "told"]
