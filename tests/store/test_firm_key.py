"""The firm's key: it signs each closing and addition, and whoever checks is told whose it is."""

from __future__ import annotations

import json
from pathlib import Path

import pytest

from rough_draw.core.records.firm_signature import KIND, fingerprint, holds, new_key, signature_of
from rough_draw.core.records.hash_chain import (
    append,
    check,
)
from rough_draw.core.sheet.settings import Settings
from rough_draw.store import firm, job_files, sealing, shelf
from tests.told import keys


def test_a_firms_key_signs_what_is_sealed_and_added_and_whoever_checks_is_told_whose(key: str, tmp_path: Path) -> None:
    shelf.save_settings(Settings(firm="Quillmere Cold Works"))
    public = firm.make_key()
    assert firm.make_key() == public, "it is made once"
    sealing.seal(key, {"by": "Mara Tollivet"}, None)
    sealing.amend(key, {"by": "x", "reason": "y", "what": "z", "before": "", "after": "a"})
    sealing.add_visit(key, {"by": "x"})
    chain = sealing.chain_of(key)
    assert [e.kind for e in chain if e.kind in ("closed", "amendment", "visit", KIND)] == [
        *("closed", KIND, "amendment", KIND, "visit", KIND)
    ]
    assert sealing.faults(key) == []
    document = json.loads(job_files.text_of(job_files.dump(key)))
    found = job_files.verify(document)
    assert found.wrong == []
    assert found.signers == [("Quillmere Cold Works", fingerprint(public))]


@pytest.mark.parametrize("how", ["other-key", "other-firm", "signature", "hash"])
def test_a_signature_that_is_not_the_firms_is_found_though_every_hash_was_made_anew(key: str, how: str) -> None:
    """Whoever makes the whole chain anew can make every hash, and not one signature."""
    firm.make_key()
    sealing.seal(key, {"by": "Mara Tollivet"}, None)
    chain = sealing.chain_of(key)
    last = dict(chain[-1].body)
    match how:
        case "other-key":
            last["key"] = new_key()[1]
        case "signature":
            last["signature"] = signature_of(new_key()[0], chain[-2].hash)
        case "hash":
            last["signature"] = signature_of(firm.key_pair()[0], "0" * 64)  # type: ignore[index]
        case _:
            # A name alone proves nothing: the fingerprint is what is compared.
            last["firm"] = "Somebody Else"
    forged = [*chain[:-1], append(chain[:-1], KIND, chain[-1].at, last)]
    found = check(forged, sealing.held(key))
    assert bool(found) == (how != "other-firm")
    assert all(keys([b.words])[0] == "chain-signature" for b in found)


def test_ed25519_as_published() -> None:
    """RFC 8032, 7.1, test 2: one byte."""
    secret = "4ccd089b28ff96da9db6c346ec114e0f5b8a319f35aba624da8cf6ed4fb8a6fb"
    public = "3d4017c3e843895a92b70aa74d1b7ebc9c982ccf2ec4968cc0cd55f12af4660c"
    signature = (
        "92a009a9f0d4cab8720e820b5f642540a2b27b5416503f8fb3762223ebdb69da"
        "085ac1e43e15996e458f3613d0f11d8c387b2eaeb4302aeeb00d291612bb0c00"
    )
    assert signature_of(secret, "r") == signature
    assert holds(public, "r", signature)
    assert not holds(public, "s", signature)
    assert not holds("00", "r", signature)
    assert not holds(public, "r", "no hex")
