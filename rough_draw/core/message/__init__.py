"""What the core says: a key and figures in SI. The sentence is made by `rough_draw.text`, in the reader's units."""

from rough_draw.core.message.figure import Figure
from rough_draw.core.message.message import Message, Value, all_of, message

__all__ = ["Figure", "Message", "Value", "all_of", "message"]
