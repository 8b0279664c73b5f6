"""Figures of the strike map: cold, what-if, against one solution a node, cost with nodes."""

from __future__ import annotations

import time
from dataclasses import replace

import numpy as np

from rugged_shield.core.assess.weighup.mount_springs import mount_supports
from rugged_shield.core.job.model import Job, mounted
from rugged_shield.core.shell.solve import factored, shell_model, spring_matrix
from rugged_shield.core.weighup.strike_field import StrikeMapInput, _spread_any
from rugged_shield.core.weighup.strike_linear import (
    _model,
    factored_shell,
    linear_of,
    shell_of,
)
from rugged_shield.core.weighup.strike_map import strike_map


def _cold(given: StrikeMapInput) -> float:
    """Best of three with nothing remembered, s."""
    best = float("inf")
    for _ in range(3):
        for remembered in (_spread_any, linear_of, factored_shell, _model):
            remembered.cache_clear()
        began = time.perf_counter()
        strike_map(given)
        best = min(best, time.perf_counter() - began)
    return best


def _one_by_one(given: StrikeMapInput) -> float:
    """Time of a sparse solution for every node, from a sample of them, s."""
    mesh = linear_of(shell_of(given.plate, given.mounts, given.mesh_mm, 23.0)).mesh
    stiffness = shell_model(mesh, 0.33).stiffness(70_300.0, given.plate.thickness_mm)
    stiffness = stiffness + spring_matrix(stiffness.shape[0], given.mounts, mesh.placed)
    solver = factored(stiffness, np.array([], dtype=np.int64))
    sample = range(0, len(mesh.nodes), len(mesh.nodes) // 40)
    began = time.perf_counter()
    for node in sample:
        load = np.zeros((stiffness.shape[0], 1))
        load[6 * node + 2] = 1.0
        solver.solve(load)
    return (time.perf_counter() - began) * len(mesh.nodes) / len(sample)


def strike_figures(job: Job) -> list[tuple[str, str, str]]:
    """The first candidate of the demo, struck from below."""
    candidate = job.candidate(job.candidates[0].key)
    parts = tuple(p for p in job.bike.parts if p.kind != "low")
    given = StrikeMapInput(
        plate=candidate.plate,
        mounts=mount_supports(candidate.plate, mounted(job.bike, candidate)).mounts,
        parts=parts,
    )
    cold = _cold(given)
    nodes = strike_map(given).result.nodes
    what_if = float("inf")
    for i in range(3):
        plate = replace(given.plate, thickness_mm=given.plate.thickness_mm + 0.1 * (i + 1))
        began = time.perf_counter()
        strike_map(replace(given, plate=plate))
        what_if = min(what_if, time.perf_counter() - began)
    began = time.perf_counter()
    strike_map(given)
    exposures = time.perf_counter() - began
    slow = _one_by_one(given)
    coarse = replace(given, mesh_mm=24.0)
    coarse_cold = _cold(coarse)
    coarse_nodes = strike_map(coarse).result.nodes
    power = np.log(cold / coarse_cold) / np.log(nodes / coarse_nodes)
    return [
        (f"strike map, {nodes} nodes, cold", f"{cold:.2f} s", "aim 1.0 s"),
        ("strike map, other thickness", f"{what_if:.2f} s", "aim 0.5 s"),
        ("strike map, warm", f"{exposures:.2f} s", "aim 0.3 s"),
        ("one sparse solution a node, over cold", f"{slow / cold:.0f} ×", "aim 5 ×"),
        ("cost with nodes, power", f"{power:.2f}", "aim 1.5"),
    ]
