"""The hold's engine: evidence against closed forms, readings made ready, claims, what follows from the sheet."""

from __future__ import annotations

import math

import numpy as np
import pytest
import scipy
from hypothesis import given, settings
from hypothesis import strategies as st

from rough_draw.core.hold import kernels
from rough_draw.core.hold.binning import MOST, jumps, sound_points, thin
from rough_draw.core.hold.decision import FINAL, above_saturation, claims, without_water_alone
from rough_draw.core.hold.hypotheses import DYING, ROOT, STRAIGHT, accounts, rise_shape, rise_slope
from rough_draw.core.hold.posterior import mixture, under
from rough_draw.core.hold.result import Circumstances
from rough_draw.core.hold.verdict import judge_hold
from rough_draw.core.physics.quantity import Quantity
from rough_draw.core.physics.units import MICRON_PA
from rough_draw.core.physics.water import saturation_pressure
from tests.core.test_hold import T_COLD, VOLUME, hold
from tests.depth import drawn

M = MICRON_PA


def random_model(seed: int, k: int = 3, n: int = 40) -> tuple[np.ndarray, np.ndarray, np.ndarray, np.ndarray]:
    rng = np.random.default_rng(seed)
    x = rng.normal(size=(n, k))
    y = x @ rng.normal(size=k) + 0.5 * rng.normal(size=n)
    return x, y, rng.normal(size=k), np.exp(rng.normal(size=k))


@pytest.mark.parametrize("seed", range(6))
def test_marginal_likelihood_against_the_multivariate_normal(seed: int) -> None:
    # y = Xβ + e with β ~ N(m, S): y is normal about Xm with covariance I + XSXᵀ (Rasmussen & Williams 2006, 2.1).
    x, y, mean, precision = random_model(seed)
    cols = np.array([[0, 1, 2]])
    found = kernels.marginals(x.T @ x, x.T @ y, float(y @ y), cols, mean[None], precision[None])
    cov = np.eye(y.size) + x @ np.diag(1.0 / precision) @ x.T
    closed = scipy.stats.multivariate_normal(x @ mean, cov).logpdf(y) + 0.5 * y.size * math.log(2 * math.pi)
    assert found[0, 0] == pytest.approx(closed, abs=1e-8)


@pytest.mark.parametrize("seed", range(4))
def test_last_amount_against_ridge_regression(seed: int) -> None:
    x, y, mean, precision = random_model(seed)
    found = kernels.marginals(x.T @ x, x.T @ y, float(y @ y), np.array([[0, 1, 2]]), mean[None], precision[None])
    inverse = np.linalg.inv(x.T @ x + np.diag(precision))
    beta = inverse @ (x.T @ y + precision * mean)
    assert found[0, 1] == pytest.approx(beta[-1])
    assert found[0, 2] == pytest.approx(math.sqrt(inverse[-1, -1]))


def test_neighbours_that_share_columns_are_not_mixed_up() -> None:
    x, y, mean, precision = random_model(3, k=5)
    args = (x.T @ x, x.T @ y, float(y @ y))
    cols = np.array([[0, 1, 2], [0, 1, 3], [0, 4, 3], [2, 4, 3], [2, 4, 3]])
    m, p = mean[cols], precision[cols]
    p[4, 2] *= 2.0
    together = kernels.marginals(*args, cols, m, p)
    for k in range(5):
        alone = kernels.marginals(*args, cols[k : k + 1], m[k : k + 1], p[k : k + 1])
        assert together[k] == pytest.approx(alone[0])


@pytest.mark.parametrize(("at", "sigma"), [(0.5, 0.3), (2.0, 0.05), (0.02, 0.4), (12.0, 1.0)])
def test_prior_of_a_rise_against_quadrature(at: float, sigma: float) -> None:
    median, spread = 0.8, 1.5
    found = np.array([[0.0, at, sigma]])
    evidence, mean, _ = kernels.with_prior(found, np.zeros(1), np.zeros(1), median, spread)

    def f(z: float) -> float:
        r = median * math.exp(spread * z)
        return scipy.stats.norm.pdf(at, r, sigma) * scipy.stats.norm.pdf(z)

    total = scipy.integrate.quad(f, -4, 4, points=[math.log(at / median) / spread], limit=200)[0]
    first = scipy.integrate.quad(lambda z: f(z) * median * math.exp(spread * z), -4, 4, limit=200)[0]
    assert evidence[0] == pytest.approx(math.log(total), abs=0.12)
    assert mean[0] == pytest.approx(first / total, rel=0.12)


@pytest.mark.parametrize("kind", [STRAIGHT, DYING, ROOT])
@given(st.floats(1, 5000), st.floats(100, 8000))
def test_rises_begin_with_unit_slope_and_never_steepen(kind: str, t: float, scale: float) -> None:
    shape = rise_shape(kind, np.array([0.0, 1e-3, t, t + 1.0]), scale)
    assert shape[0] == 0.0
    assert shape[1] == pytest.approx(1e-3, rel=1e-3)
    assert 0.0 <= shape[3] - shape[2] <= 1.0 + 1e-9
    assert rise_slope(kind, t + 0.5, scale) == pytest.approx(shape[3] - shape[2], rel=1e-2)


def test_thinning_keeps_span_and_counts_every_reading() -> None:
    t = np.arange(0, 7200.0)
    p = 30 + 0.01 * t
    d = thin(t, p)
    assert d.time.size <= MOST
    assert d.count.sum() == t.size
    assert d.pressure == pytest.approx(30 + 0.01 * d.time, rel=1e-3)
    assert np.all(np.diff(d.time) > 0)
    assert np.all(np.diff(np.diff(d.time)) > -60)


def test_a_coarse_gauge_that_stands_still_is_not_taken_for_a_sure_one() -> None:
    t = np.arange(0, 1200.0)
    still = np.where(t < 600, 200 * M, 225 * M)
    dithered = np.where(np.random.default_rng(1).random(t.size) < t / 1200, 225 * M, 200 * M)
    coarse, fine = thin(t, still), thin(t, dithered)
    assert coarse.quantum == pytest.approx(25 * M)
    assert np.median(coarse.sigma) > 3 * np.median(fine.sigma)


@pytest.mark.parametrize("bad", [0.2, 8.0])
def test_single_bad_points_are_set_aside_and_good_ones_kept(bad: float) -> None:
    t, p = hold(seed=6)
    p = p.copy()
    p[[100, 400, 401 + 200]] *= bad
    keep = sound_points(t, p)
    assert not keep[[100, 400, 601]].any()
    assert keep.sum() > t.size - 25


def test_the_last_reading_of_a_steep_rise_is_kept() -> None:
    t = np.arange(0, 1200.0, 30)
    assert sound_points(t, 20 + 1.5 * t).all()


def test_a_jump_is_found_where_it_is_and_a_silence_is_none() -> None:
    t, p = hold(leak=0.4, seed=3)
    stepped = p + np.where(t > 700, 60 * M, 0.0)
    assert jumps(t, p) == ()
    assert jumps(t, stepped) == pytest.approx((700.5,), abs=4)
    quiet = (t < 500) | (t > 800)
    assert jumps(t[quiet], p[quiet]) == ()


def test_a_touch_in_the_middle_does_not_turn_it() -> None:
    t, p = hold(leak=0.8, seed=8)
    touched = p + np.where(t > 600, 45 * M, 0.0)
    v = judge_hold(t, touched, VOLUME, T_COLD, known=Circumstances(touches=(600.0,)), find_sound=False)
    assert v.verdict == "leak"
    assert v.rate.value == pytest.approx(0.8, rel=0.1)
    flat_t, flat = hold(seed=9)
    v = judge_hold(
        flat_t, flat + np.where(flat_t > 500, 30 * M, 0.0), VOLUME, T_COLD, known=Circumstances(touches=(500.0,))
    )
    assert v.verdict == "tight-and-dry"


def odds(**values: float) -> dict[str, float]:
    names = ("tight_and_dry", "shallow", "leak", "moisture", "leak_and_moisture", "refrigerant")
    return {n.replace("_", "-"): values.get(n, 0.0) for n in names} | (
        {"hose": values["hose"]} if "hose" in values else {}
    )


@pytest.mark.parametrize(
    ("given_odds", "seen", "verdict", "left"),
    [
        (odds(tight_and_dry=0.99, leak=0.01), 0.1, "tight-and-dry", ()),
        (odds(tight_and_dry=0.99, leak=0.01), 0.5, "not-settled", ()),
        (odds(tight_and_dry=0.6, leak=0.4), 0.15, "creeping", ()),
        (odds(leak=0.97, refrigerant=0.03), 1.0, "leak", ()),
        (odds(leak=0.9, refrigerant=0.1), 1.0, "not-settled", ()),
        (odds(moisture=0.96, leak_and_moisture=0.02, refrigerant=0.02), 0.4, "moisture", ()),
        (odds(moisture=0.6, leak_and_moisture=0.4), 0.4, "moisture", ("leak",)),
        (odds(leak_and_moisture=1.0), 2.0, "leak-and-moisture", ()),
        (odds(leak_and_moisture=0.97, moisture=0.03), 2.0, "moisture", ("leak",)),
        (odds(refrigerant=0.98, moisture=0.02), 0.5, "refrigerant", ()),
        (odds(refrigerant=0.6, moisture=0.38, leak=0.02), 0.5, "vapour", ("water or refrigerant",)),
        (odds(shallow=0.97, tight_and_dry=0.03), 0.1, "shallow", ("gas or water",)),
        (odds(hose=0.8, tight_and_dry=0.19, leak=0.01), 1.0, "hose", ("leak",)),
    ],
)
def test_claims_follow_from_the_odds(
    given_odds: dict[str, float], seen: float, verdict: str, left: tuple[str, ...]
) -> None:
    said, probability, open_ = claims(given_odds, seen * M)
    assert (said, open_) == (verdict, left)
    assert probability >= 0.95 or said in ("not-settled", "creeping")


@given(st.lists(st.floats(0, 1), min_size=6, max_size=6), st.floats(0.02, 3))
def test_a_claim_is_never_made_under_its_probability(values: list[float], seen: float) -> None:
    total = sum(values) or 1.0
    names = list(odds())
    o = {n: v / total for n, v in zip(names, values, strict=True)}
    verdict, probability, _ = claims(o, seen * M)
    if verdict in FINAL:
        assert probability >= 0.95
    if verdict == "tight-and-dry":
        assert seen <= 0.2
        assert o["leak"] + o["leak-and-moisture"] <= 0.05


def test_water_alone_is_out_above_saturation() -> None:
    sat = saturation_pressure(T_COLD)
    assert above_saturation(1.3 * sat, 20.0, sat)
    assert not above_saturation(1.1 * sat, 20.0, sat)
    left = without_water_alone(odds(moisture=0.9, leak=0.05, refrigerant=0.05))
    assert left["moisture"] == 0.0
    assert sum(left.values()) == pytest.approx(1.0)
    assert without_water_alone(odds(moisture=1.0))["leak"] == 1.0


@given(st.floats(-50, 50), st.floats(0.1, 20), st.floats(-50, 50))
def test_mixtures_of_normals(mean: float, sd: float, limit: float) -> None:
    assert under(mean, sd, limit) == pytest.approx(scipy.stats.norm.cdf(limit, mean, sd), abs=1e-9)
    one = mixture([(1.0, mean, sd)])
    assert one.low == pytest.approx(mean - 1.645 * sd, abs=0.12 * sd)
    assert one.high == pytest.approx(mean + 1.645 * sd, abs=0.12 * sd)
    two = mixture([(0.5, mean, sd), (0.5, mean + 100 * sd, sd)])
    assert two.high - two.low > 90 * sd


def test_accounts_have_their_priors_from_what_is_known() -> None:
    plain = {a.name: a.prior for a in accounts(None)}
    assert "hose" not in plain
    assert plain["dry"] > plain["leak"] > plain["leak-and-moisture"]
    hose = Quantity(0.4 * M, 0.1 * M, 1.2 * M, "Pa/s", "test")
    assert {a.name for a in accounts(hose)} - set(plain) == {"hose"}
    wet = {a.name: a.prior for a in accounts(None, wetness=3.0)}
    assert wet["moisture"] == pytest.approx(3 * plain["moisture"])
    assert "refrigerant" not in {a.name for a in accounts(None, ran=0.0)}


def test_a_rise_that_the_hoses_can_make_is_laid_to_them() -> None:
    t, p = hold(leak=0.5, seed=2)
    inflow = 0.5 * M * VOLUME.value
    held = Circumstances(hose=Quantity(inflow, 0.4 * inflow, 2.5 * inflow, "Pa·m³/s", "test"))
    v = judge_hold(t, p, VOLUME, T_COLD, known=held, find_sound=False)
    assert v.verdict == "hose"
    assert v.open == ("leak",)
    t, p = hold(leak=6.0, seed=2)
    v = judge_hold(t, p, VOLUME, T_COLD, known=held, find_sound=False)
    assert v.verdict == "leak"
    # What the hoses do is no part of the leak.
    assert v.rate.value == pytest.approx(5.5, rel=0.05)


def test_refrigerant_from_oil_slows_down() -> None:
    rng = np.random.default_rng(5)
    t = np.arange(0, 2400.0)
    # What leaves a deep layer of oil after 20 min of pumping: flux as 1/√(time since it began).
    p = 150 + 60 * (1 - np.exp(-t / 60)) + 2 * 3.0 * 1200 * (np.sqrt(1 + t / 1200) - 1)
    shown = np.round(p * (1 + 0.002 * rng.normal(size=t.size))) * M
    v = judge_hold(t, shown, VOLUME, T_COLD, known=Circumstances(drawn=1200.0), find_sound=False)
    assert v.verdict in ("refrigerant", "vapour")
    assert v.odds["leak"] < 0.05
    new = judge_hold(t, shown, VOLUME, T_COLD, known=Circumstances(drawn=1200.0, ran=0.0), find_sound=False)
    assert new.odds["refrigerant"] == 0.0


def test_ice_is_water_over_ice() -> None:
    cold = 265.15
    sat = saturation_pressure(cold) / M
    v = judge_hold(*hold(minutes=25, water=sat, tau_water=350, settle=40), VOLUME, cold, find_sound=False)
    assert v.verdict == "moisture"
    assert v.plateau.value / M == pytest.approx(sat, rel=0.25)


@settings(max_examples=drawn(8))
@given(st.integers(0, 500), st.floats(0.4, 5), st.floats(0.5, 200))
def test_the_leak_scales_with_the_volume_and_the_verdict_does_not(seed: int, rate: float, litres: float) -> None:
    t, p = hold(leak=rate, seed=seed)
    v = [
        judge_hold(
            t + 17.0 * (x > 1), p, Quantity(x * 1e-3, 0.9e-3 * x, 1.1e-3 * x, "m³", ""), T_COLD, find_sound=False
        )
        for x in (1.0, litres)
    ]
    assert v[0].verdict == v[1].verdict
    assert v[1].leak.value == pytest.approx(litres * v[0].leak.value, rel=1e-6)
    for x in v:
        assert sum(x.odds.values()) == pytest.approx(1.0)
        assert x.leak.low <= x.leak.value <= x.leak.high
        assert all(r.low <= r.value <= r.high for _, r in x.ahead)


def test_where_it_will_be_holds_for_a_leak() -> None:
    t, p = hold(minutes=50, leak=0.9, seed=12)
    half = t <= 1200
    v = judge_hold(t[half], p[half], VOLUME, T_COLD, find_sound=False)
    at, band = v.ahead[0]
    assert at == 600.0
    then = float(np.median(p[(t > 1790) & (t < 1810)]))
    assert band.low <= then <= band.high
    assert v.ahead[2][1].high <= 101_325.0


def test_a_hold_that_is_not_sound_says_how_much_longer() -> None:
    t, p = hold(minutes=3.5, seed=4)
    v = judge_hold(t, p, VOLUME, T_COLD)
    assert not v.sound
    assert v.sound_at is None
    assert v.wait is not None
    longer_t, longer = hold(minutes=(210 + 1.6 * v.wait) / 60, seed=4)
    assert judge_hold(longer_t, longer, VOLUME, T_COLD).sound


def test_residuals_are_what_the_best_account_leaves() -> None:
    t, p = hold(leak=0.7, seed=7)
    v = judge_hold(t, p, VOLUME, T_COLD, find_sound=False)
    at, left, sigma = v.residuals()
    assert at.size == left.size == sigma.size <= MOST
    assert float(np.median(np.abs(left))) < 3 * M
    assert (np.abs(left) < 3 * sigma).mean() > 0.95
