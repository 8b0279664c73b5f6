"""A strike on the reference plate: what reaches its mounts, and what is refused."""

from __future__ import annotations

import json
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from pydantic import TypeAdapter

from rugged_shield.core.errors import InputError
from rugged_shield.core.weighup.strike import StrikeInput, strike

DATA = json.loads((Path(__file__).parents[1] / "data/strike.json").read_text())


def test_a_strike_reaches_its_mounts_and_a_mechanism_is_refused() -> None:
    case = next(c for c in DATA["cases"] if c["calc"] == "strike")["inputs"]
    whole = TypeAdapter(StrikeInput).validate_python({**case, "mesh_mm": 20})
    result = strike(whole).result
    assert np.sum(result.mount_reactions, axis=0) == pytest.approx((0, 0, 1), abs=1e-6)
    peak = result.energies[-1].peak_force_n
    assert np.sum(result.mount_forces_n, axis=0)[2] == pytest.approx(peak, rel=1e-6)
    assert result.in_plane_stiffness_n_per_mm == pytest.approx(10_000.0)
    with pytest.raises(InputError, match="mechanism"):
        strike(replace(whole, mounts=whole.mounts[:2]))
    with pytest.raises(InputError):
        strike(replace(whole, strike=replace(whole.strike, panel="roof")))
