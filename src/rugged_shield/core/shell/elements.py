"""Flat shell triangles, all at once: DKT bending and the optimal membrane with drilling freedom.

Stiffness for E = 1 and t = 1: membrane scales with E·t, bending with E·t³.
Batoz, Bathe & Ho 1980 (DKT); Felippa 2003 (membrane, template OPT).
"""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

Array = npt.NDArray[np.float64]
Index = npt.NDArray[np.int64]

ALPHA_B = 1.5
BETAS = (1.0, 2.0, 1.0, 0.0, 1.0, -1.0, -1.0, -1.0, -2.0)
_MID_SIDES = ((0.5, 0.0), (0.5, 0.5), (0.0, 0.5))
_Q_ORDER = ((0, 1, 2, 3, 4, 5, 6, 7, 8), (8, 6, 7, 2, 0, 1, 5, 3, 4), (4, 5, 3, 7, 8, 6, 1, 2, 0))
"""Which β stands where in Q1, Q2, Q3, row by row."""


def frames(nodes: Array, triangles: Index) -> tuple[Array, Array, Array]:
    """Local axes (m, 3, 3) as rows, corners in them (m, 3, 2) and areas (m,)."""
    p1, p2, p3 = (nodes[triangles[:, i]] for i in range(3))
    e1 = p2 - p1
    e1 = e1 / np.linalg.norm(e1, axis=1, keepdims=True)
    normal = np.cross(p2 - p1, p3 - p1)
    twice = np.linalg.norm(normal, axis=1, keepdims=True)
    e3 = normal / twice
    axes = np.stack([e1, np.cross(e3, e1), e3], axis=1)
    flat = np.stack([np.zeros_like(p1), p2 - p1, p3 - p1], axis=1)
    local = np.einsum("mij,mkj->mki", axes[:, :2], flat)
    return axes, local, twice[:, 0] / 2


def elasticity(poisson: float) -> Array:
    """Plane stress matrix for E = 1, (3, 3)."""
    shear = (1 - poisson) / 2
    return np.array([[1, poisson, 0], [poisson, 1, 0], [0, 0, shear]]) / (1 - poisson**2)


def _dkt_shapes(xi: float, eta: float, c: dict[str, Array]) -> tuple[Array, Array, Array, Array]:
    """Derivatives of Hx and Hy by ξ and η at one point, each (m, 9)."""
    (p4, p5, p6), (q4, q5, q6), (r4, r5, r6), (t4, t5, t6) = (
        (c[f"{name}4"], c[f"{name}5"], c[f"{name}6"]) for name in "pqrt"
    )
    x, e = 1 - 2 * xi, 1 - 2 * eta
    hx_xi = [
        p6 * x + (p5 - p6) * eta,
        q6 * x - (q5 + q6) * eta,
        -4 + 6 * (xi + eta) + r6 * x - eta * (r5 + r6),
        -p6 * x + eta * (p4 + p6),
        q6 * x - eta * (q6 - q4),
        -2 + 6 * xi + r6 * x + eta * (r4 - r6),
        -eta * (p5 + p4),
        eta * (q4 - q5),
        -eta * (r5 - r4),
    ]
    hy_xi = [
        t6 * x + eta * (t5 - t6),
        1 + r6 * x - eta * (r5 + r6),
        -q6 * x + eta * (q5 + q6),
        -t6 * x + eta * (t4 + t6),
        -1 + r6 * x + eta * (r4 - r6),
        -q6 * x - eta * (q4 - q6),
        -eta * (t4 + t5),
        eta * (r4 - r5),
        -eta * (q4 - q5),
    ]
    hx_eta = [
        -p5 * e - xi * (p6 - p5),
        q5 * e - xi * (q5 + q6),
        -4 + 6 * (xi + eta) + r5 * e - xi * (r5 + r6),
        xi * (p4 + p6),
        xi * (q4 - q6),
        -xi * (r6 - r4),
        p5 * e - xi * (p4 + p5),
        q5 * e + xi * (q4 - q5),
        -2 + 6 * eta + r5 * e + xi * (r4 - r5),
    ]
    hy_eta = [
        -t5 * e - xi * (t6 - t5),
        1 + r5 * e - xi * (r5 + r6),
        -q5 * e + xi * (q5 + q6),
        xi * (t4 + t6),
        xi * (r4 - r6),
        -xi * (q4 - q6),
        t5 * e - xi * (t4 + t5),
        -1 + r5 * e + xi * (r4 - r5),
        -q5 * e - xi * (q4 - q5),
    ]
    xx, yx, xe, ye = (np.stack(rows, axis=1) for rows in (hx_xi, hy_xi, hx_eta, hy_eta))
    return xx, yx, xe, ye


def _sides(local: Array) -> dict[str, Array]:
    """What DKT needs of the three sides, each (m,)."""
    x, y = local[..., 0], local[..., 1]
    c: dict[str, Array] = {}
    for name, (i, j) in {"4": (1, 2), "5": (2, 0), "6": (0, 1)}.items():
        dx, dy = x[:, i] - x[:, j], y[:, i] - y[:, j]
        square = dx**2 + dy**2
        c["p" + name], c["t" + name] = -6 * dx / square, -6 * dy / square
        c["q" + name], c["r" + name] = 3 * dx * dy / square, 3 * dy**2 / square
    return c


def curvatures(local: Array, areas: Array) -> tuple[Array, ...]:
    """DKT curvature rows (m, 3, 9) at the three middles of the sides: κx, κy, 2κxy."""
    x, y = local[..., 0], local[..., 1]
    c = _sides(local)
    x31, x12 = x[:, 2] - x[:, 0], x[:, 0] - x[:, 1]
    y31, y12 = y[:, 2] - y[:, 0], y[:, 0] - y[:, 1]
    found = []
    for xi, eta in _MID_SIDES:
        hx_xi, hy_xi, hx_eta, hy_eta = _dkt_shapes(xi, eta, c)
        rows = [
            y31[:, None] * hx_xi + y12[:, None] * hx_eta,
            -x31[:, None] * hy_xi - x12[:, None] * hy_eta,
            -x31[:, None] * hx_xi
            - x12[:, None] * hx_eta
            + y31[:, None] * hy_xi
            + y12[:, None] * hy_eta,
        ]
        found.append(np.stack(rows, axis=1) / (2 * areas)[:, None, None])
    return tuple(found)


def congruent(rows: Array, middle: Array) -> Array:
    """RᵀMR of every element: rows (m, a, i), middle (a, a) or (m, a, a); (m, i, i)."""
    return np.asarray(rows.transpose(0, 2, 1) @ (middle @ rows))


def bending(local: Array, areas: Array, poisson: float) -> Array:
    """DKT stiffness (m, 9, 9) for E = t = 1; per node w, ∂w/∂y, −∂w/∂x."""
    rigidity = elasticity(poisson) / 12
    total = np.zeros((len(local), 9, 9))
    for rows in curvatures(local, areas):
        total += congruent(rows, rigidity)
    return np.asarray(total * (areas / 3)[:, None, None])


def lumping(x: Array, y: Array) -> Array:
    """Force-lumping matrix L (m, 9, 3) without thickness; per node u, v, θ."""
    zero = np.zeros(len(x))
    rows: list[Array] = []
    for k, a, b in ((0, 1, 2), (1, 2, 0), (2, 0, 1)):
        y_ab, x_ba = y[:, a] - y[:, b], x[:, b] - x[:, a]
        y_kb, y_ak = y[:, k] - y[:, b], y[:, a] - y[:, k]
        x_bk, x_ka = x[:, b] - x[:, k], x[:, k] - x[:, a]
        turn = (y_ab * (y_kb - y_ak), x_ba * (x_bk - x_ka), 2 * (x_bk * y_kb - x_ka * y_ak))
        rows.append(np.stack([y_ab, zero, x_ba], axis=1))
        rows.append(np.stack([zero, x_ba, y_ab], axis=1))
        rows.append(ALPHA_B / 6 * np.stack(turn, axis=1))
    return np.stack(rows, axis=1) / 2


def _natural(x: Array, y: Array, areas: Array, poisson: float) -> tuple[Array, Array]:
    """Natural strain elasticity (m, 3, 3), and squared side lengths 21, 32, 13 (m, 3)."""
    x12, x23, x31 = x[:, 0] - x[:, 1], x[:, 1] - x[:, 2], x[:, 2] - x[:, 0]
    y12, y23, y31 = y[:, 0] - y[:, 1], y[:, 1] - y[:, 2], y[:, 2] - y[:, 0]
    x21, x32, x13, y21, y32, y13 = -x12, -x23, -x31, -y12, -y23, -y31
    sides = np.stack([x21**2 + y21**2, x32**2 + y32**2, x13**2 + y13**2], axis=1)
    l21, l32, l13 = sides.T
    rows = (
        np.stack(
            [
                np.stack([y23 * y13 * l21, y31 * y21 * l32, y12 * y32 * l13], axis=1),
                np.stack([x23 * x13 * l21, x31 * x21 * l32, x12 * x32 * l13], axis=1),
                np.stack(
                    [
                        (y23 * x31 + x32 * y13) * l21,
                        (y31 * x12 + x13 * y21) * l32,
                        (y12 * x23 + x21 * y32) * l13,
                    ],
                    axis=1,
                ),
            ],
            axis=1,
        )
        / (4 * areas**2)[:, None, None]
    )
    return congruent(rows, elasticity(poisson)), sides


def membrane(local: Array, areas: Array, poisson: float) -> Array:
    """Optimal membrane stiffness (m, 9, 9) for E = t = 1; per node u, v and drilling θ."""
    x, y = local[..., 0], local[..., 1]
    lumped = lumping(x, y)
    basic = congruent(lumped.transpose(0, 2, 1), elasticity(poisson))
    basic /= areas[:, None, None]
    natural, sides = _natural(x, y, areas, poisson)
    beta = np.array(BETAS)
    q = [
        (2 * areas / 3)[:, None, None] * beta[list(order)].reshape(3, 3) / sides[:, :, None]
        for order in _Q_ORDER
    ]
    middles = ((q[0] + q[1]) / 2, (q[1] + q[2]) / 2, (q[2] + q[0]) / 2)
    higher = sum(congruent(m, natural) for m in middles)
    higher = higher * areas[:, None, None]
    x32, x13, x21 = x[:, 2] - x[:, 1], x[:, 0] - x[:, 2], x[:, 1] - x[:, 0]
    y32, y13, y21 = y[:, 2] - y[:, 1], y[:, 0] - y[:, 2], y[:, 1] - y[:, 0]
    turn = np.zeros((len(x), 3, 9))
    for column, value in enumerate((x32, y32, None, x13, y13, None, x21, y21, None)):
        if value is not None:
            turn[:, :, column] = (value / (4 * areas))[:, None]
    for i in range(3):
        turn[:, i, 3 * i + 2] = 1.0
    beta0 = max((1 - 4 * poisson**2) / 2, 0.01)
    return np.asarray(basic + 0.75 * beta0 * congruent(turn, np.asarray(higher)))
