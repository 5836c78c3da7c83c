"""How a sound hand mends: the pump's own mends with the system shut off, a core with its tool closed behind it."""

from __future__ import annotations

from rough_draw.core.interlock.port_parts import PLUNGER, in_the_way, port_tool, wants_plunger
from rough_draw.core.practice.rig_choice import RigChoice
from rough_draw.standins.practice.bay import Bay
from rough_draw.standins.practice.session_log import CannotDo

ASIDE = ("oil-change", "mend:other-pump", "mend:thick-cord", "mend:change-hoses")
"""Mends that are made on the pump's side, with the system shut off from it."""
CORE_OUT = "core-out:"


def tried(bay: Bay, kind: str, choice: RigChoice | None = None) -> bool:
    """Do it where it can be done."""
    try:
        bay.do(kind, choice)
    except CannotDo:
        return False
    return True


def stopped(bay: Bay) -> None:
    """The system shut off where it can be, then the pump stopped."""
    if bay.isolation.tubes and not bay.isolated:
        bay.do("isolate")
    bay.do("pump-off")


def going_on(bay: Bay) -> None:
    """The pump started, then the system opened to it."""
    bay.do("pump-on")
    if bay.isolated:
        bay.do("reopen")


def mended(bay: Bay, mend: str) -> None:
    """A mend with what has to be done before and after it."""
    if mend.startswith(CORE_OUT):
        port = f"port:{mend.removeprefix(CORE_OUT)}"
        piece = in_the_way(bay.board, bay.contents, port)
        if piece is not None:
            _core_behind(bay, mend, port, piece)
            return
    aside = mend in ASIDE and bool(bay.isolation.tubes)
    if aside:
        stopped(bay)
    bay.do(mend)
    if aside:
        going_on(bay)


def _core_behind(bay: Bay, mend: str, port: str, piece: str) -> None:
    """A core whose tool has something where its plunger goes: that comes off behind the closed tool, and on again."""
    tool = port_tool(bay.board, port)
    if tool is None:
        return
    stopped(bay)
    tried(bay, f"shut:{tool.id}")
    bay.do(f"take-off:{piece}")
    plunger = f"{tool.id}{PLUNGER}"
    wanted = wants_plunger(bay.board, tool)
    if wanted:
        bay.do(f"put-on:{plunger}")
    tried(bay, f"open:{tool.id}")
    bay.do(mend)
    tried(bay, f"shut:{tool.id}")
    if wanted:
        bay.do(f"take-off:{plunger}")
    bay.do(f"put-on:{piece}")
    going_on(bay)
    if tool.id not in bay.contents.opened:
        tried(bay, f"open:{tool.id}")


def broken_with_nitrogen(bay: Bay) -> None:
    """Dry nitrogen in, warmth, some minutes, and out again: what is frozen thaws."""
    bay.do("break")
    bay.do("warm-up")
    bay.advance(bay.time + 300.0)
    bay.do("break-end")
