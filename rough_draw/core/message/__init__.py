"""What the core says: a key and figures in SI. The sentence is made by `rough_draw.text`, in the reader's units."""

from rough_draw.core.message.fault import Fault, Telling
from rough_draw.core.message.figure import Figure
from rough_draw.core.message.message import Message, Name, Value, all_of, listed, message, one_of
from rough_draw.core.message.packed import pack, unpack

__all__ = [
    "Fault",
    "Figure",
    "Message",
    "Name",
    "Telling",
    "Value",
    "all_of",
    "listed",
    "message",
    "one_of",
    "pack",
    "unpack",
]
