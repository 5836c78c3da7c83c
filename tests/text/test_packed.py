"""Messages that are stored: any of them comes back as it was, and no text that people type is taken for one."""

from __future__ import annotations

from typing import get_args

from hypothesis import given
from hypothesis import strategies as st

from rough_draw.core.message import Figure, Message, pack, unpack
from rough_draw.core.message.figure import Dimension
from rough_draw.text import kept, say

WORDS = st.text(max_size=30)
FIGURES = st.builds(Figure, st.sampled_from(get_args(Dimension)), st.floats(allow_nan=False, allow_infinity=False))
NAMES = st.from_regex(r"[a-z][a-z-]{0,20}(\.why)?", fullmatch=True)


def messages(values: st.SearchStrategy[object]) -> st.SearchStrategy[Message]:
    return st.builds(
        lambda key, named: Message(key, tuple(named.items())),  # type: ignore[arg-type]
        NAMES,
        st.dictionaries(st.from_regex(r"[a-z]{1,8}", fullmatch=True), values, max_size=4),
    )


MESSAGES = st.recursive(messages(WORDS | FIGURES | st.integers(-(10**9), 10**9)), messages, max_leaves=6)


@given(MESSAGES)
def test_any_message_comes_back(told: Message) -> None:
    assert unpack(pack(told)) == told


@given(WORDS | st.sampled_from(['{"say"', '{"say": "no-such", "with": {}}', '{"say":1}', '{"say": "a"', "null"]))
def test_what_is_typed_stays_what_it_is(text: str) -> None:
    assert say(unpack(pack(text))) == text
    assert say(kept(pack(text))) == text


@given(st.text(max_size=60).map(lambda t: '{"say"' + t))
def test_text_of_elsewhere_is_never_more_than_text(text: str) -> None:
    assert isinstance(say(kept(text)), str)


def test_a_sentence_that_no_version_knows_any_more_is_shown_as_it_was_kept() -> None:
    text = '{"say": "told-in-an-earlier-year", "with": {}}'
    assert kept(text) == text
