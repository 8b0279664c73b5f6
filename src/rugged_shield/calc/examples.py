"""A runnable example of every computation's input: small, invented, and inside its range."""

from __future__ import annotations

from typing import Any

_BOX_PLATE = {
    "key": "pan",
    "name": "flat pan",
    "role": "candidate",
    "material": "aluminium 5052-H32",
    "thickness_mm": 4,
    "form": "flat",
    "mounting": "frame",
    "belly": {
        "start_x_mm": 500,
        "length_mm": 400,
        "front_width_mm": 240,
        "rear_width_mm": 240,
        "z_front_mm": 280,
        "z_rear_mm": 280,
    },
    "cutouts": [
        {
            "key": "drain",
            "panel": "belly",
            "shape": "round",
            "purpose": "drain",
            "u_mm": 200,
            "v_mm": 0,
            "width_mm": 60,
        }
    ],
}
_SUMP = {
    "key": "sump",
    "name": "sump",
    "kind": "vital",
    "shape": "sump",
    "x_min_mm": 600,
    "x_max_mm": 800,
    "y_min_mm": -80,
    "y_max_mm": 80,
    "z_min_mm": 310,
    "z_max_mm": 340,
}
_JOB = {
    "title": "which plate",
    "wrench": {"name": "click wrench", "scale_max_nm": 60, "length_mm": 270},
    "bike": {
        "name": "a single",
        "wheelbase_mm": 1480,
        "front_wheel_radius_mm": 345,
        "rear_wheel_radius_mm": 322,
        "parts": [_SUMP],
        "mounts": [],
    },
    "stock": {"plate": {**_BOX_PLATE, "key": "stock", "role": "stock"}, "joints": []},
    "candidates": [{"plate": _BOX_PLATE, "joints": []}],
}
_TURNING = {"head_bearing_diameter_mm": 15.8, "head_bearing_hole_mm": 9.0}
_SHEET = {
    "panels": [
        {
            "name": "belly",
            "outline_mm": [[0, -120], [300, -120], [300, 120], [0, 120]],
            "origin_mm": [0, 0, 0],
            "u_axis": [1, 0, 0],
            "v_axis": [0, 1, 0],
        }
    ],
    "thickness_mm": 4,
    "youngs_modulus_mpa": 70000,
    "poisson": 0.33,
}
_HELD = [
    {"name": f"m{i}", "at_mm": [x, y, 0], "stiffness_n_per_mm": [10000, 10000, 50000]}
    for i, (x, y) in enumerate(((20, -100), (20, 100), (280, -100), (280, 100)))
]
_STRUCK = {
    "plate": _BOX_PLATE,
    "parts": [_SUMP],
    "mesh_mm": 25,
    "energy_j": 60,
    "mounts": [
        {"name": f"m{i}", "at_mm": [x, y, 280], "stiffness_n_per_mm": [6000, 6000, 2300]}
        for i, (x, y) in enumerate(((530, -80), (530, 80), (770, -80), (770, 80)))
    ],
}

EXAMPLES: dict[str, dict[str, Any]] = {
    "thread-strip": {
        "thread": "M6",
        "engagement_effective_mm": 9.5,
        "female_shear_strength_mpa": 110,
    },
    "assembly-preload": {
        "thread": "M8",
        "bolt_rp02_mpa": 640,
        "mu_thread": 0.1,
        "mu_head": 0.14,
        **_TURNING,
    },
    "joint-stack": {
        "thread": "M8",
        "head": "ISO 4762",
        "layers": [{"name": "plate", "thickness_mm": 5, "tol_mm": 0.2}],
        "female": {"kind": "blind_tapped", "thread_start_mm": 1, "thread_end_mm": 22},
        "required_engagement_mm": 12,
    },
    "torque-limit": {
        "thread": "M8",
        "bolt_rp02_mpa": 640,
        "mu_thread": 0.12,
        "mu_head": 0.12,
        "engagement_effective_mm": 9,
        "female_shear_strength_mpa": 110,
        **_TURNING,
    },
    "lubricant-change": {
        "thread": "M8",
        "torque_dry_nm": 22,
        "mu_dry": 0.14,
        "mu_new": 0.1,
        "bolt_rp02_mpa": 640,
        **_TURNING,
    },
    "wrench-setting": {
        "torque_wanted_nm": 22,
        "wrench_length_mm": 270,
        "extension_mm": 60,
        "thread": "M8",
        "mu_min": 0.1,
        "mu_max": 0.2,
        **_TURNING,
    },
    "convert-torque": {"items": [{"value": 22, "unit_from": "N.m", "unit_to": "lbf.ft"}]},
    "plate-mass": {"plate": _BOX_PLATE},
    "thickness-compare": {
        "material": "HDPE",
        "thickness_mm": 10,
        "base_material": "aluminium 5052-H32",
        "base_thickness_mm": 4,
    },
    "plate-geometry": {"plate": _BOX_PLATE},
    "standoff": {"plate": _BOX_PLATE, "parts": [_SUMP]},
    "weigh-difference": {
        "with_part": [84.6, 84.5, 84.6],
        "without_part": [80.3, 80.4, 80.3],
        "resolution": 0.1,
        "unit": "kg",
    },
    "clearance": {
        "wheelbase_mm": 1480,
        "low_point_from_rear_axle_mm": 700,
        "low_point_height_mm": 270,
        "rear_wheel_radius_mm": 322,
        "front_wheel_radius_mm": 345,
        "added_mass_kg": 4.2,
        "added_mass_from_rear_axle_mm": 750,
        "front_wheel_rate_n_per_mm": 9,
        "rear_wheel_rate_n_per_mm": 24,
        "plate_below_low_point_mm": 8,
    },
    "clearance-budget": {
        "gap_mm": 14,
        "gap_tol_mm": 0.5,
        "required_mm": 3,
        "parts": [{"name": "screw head", "value_mm": 4.4, "tol_mm": 0.2}],
    },
    "sag": {
        "wheelbase_mm": 1480,
        "added_mass_kg": 4.2,
        "added_mass_from_front_axle_mm": 690,
        "rider_mass_kg": 88,
        "front_sag_with_rider_mm": 62,
        "front_sag_without_rider_mm": 28,
        "rear_sag_with_rider_mm": 95,
        "rear_sag_without_rider_mm": 30,
    },
    "what-to-measure": {"job": _JOB},
    "read-list": {"text": "4 M8x20 hex bolt\n12 M8 washers\n4 spacers 10 mm\nbracket left"},
    "identify": {
        "measured": {"diameter_mm": 7.86, "length_mm": 34.7},
        "lines": [
            {"key": "k1", "thread": "M8", "length_mm": 30, "head": "ISO 7380-2"},
            {"key": "k2", "thread": "M8", "length_mm": 35, "head": "ISO 4762"},
        ],
    },
    "photo-scale": {
        "sheet_mm": [297, 210],
        "corners_px": [[400, 600], [2400, 500], [2200, 1600], [450, 1700]],
        "points_px": [[626, 209], [2263, 110]],
        "distances": [[0, 1]],
    },
    "photo-outline": {
        "sheet": "A4, across",
        "corners_px": [[400, 600], [2400, 500], [2200, 1600], [450, 1700]],
        "outline_px": [[500, 1800], [2100, 1700], [2000, 2600], [600, 2700]],
        "holes_px": [{"middle": [900, 2100], "rim": [930, 2100]}],
    },
    "photo-places": {
        "sheet": "A4, across",
        "corners_px": [[400, 600], [2400, 500], [2200, 1600], [450, 1700]],
        "known_px": [500, 1800],
        "known_mm": [520, -80],
        "points_px": [[2100, 1700]],
    },
    "hole-fit": {
        "holes": [
            {"name": "front", "x_mm": 0, "y_mm": 200, "radial_clearance_mm": 0.5, "dx_mm": 0.9},
            {"name": "rear", "x_mm": 0, "y_mm": -150, "radial_clearance_mm": 0.5, "dx_mm": -0.3},
        ]
    },
    "draw-up": {
        "mounts": [
            {
                "name": name,
                "gap_mm": gap,
                "screw_reach_mm": 8,
                "pitch_mm": 1.25,
                "preload_n": 9000,
            }
            for name, gap in (("front", 0.0), ("rear", 2.0))
        ],
        "stiffness_n_per_mm": [[40, -40], [-40, 40]],
    },
    "bracket-bend": {
        "width_mm": 30,
        "thickness_mm": 4,
        "free_length_mm": 60,
        "e_mpa": 205000,
        "yield_mpa": 235,
        "gap_mm": 1.0,
    },
    "vent-field": {
        "panel": [[0, 0], [240, 0], [200, 160], [40, 160]],
        "bends": [[[0, 0], [240, 0]]],
        "hole_diameter_mm": 12,
        "pitch_mm": 22,
        "thickness_mm": 4,
        "density_kg_m3": 2680,
    },
    "sweep": {
        "moving": [{"a": [760, -230, 395], "b": [860, -235, 400], "radius_mm": 32}],
        "motion": {
            "kind": "rotate",
            "origin": [900, -180, 400],
            "axis": [0, 1, 0],
            "from_deg": -14,
            "to_deg": 14,
        },
        "fixed": [{"name": "case", "kind": "box", "min": [650, -140, 330], "max": [800, -90, 460]}],
    },
    "preload-loss": {
        "thread": "M8",
        "female": "tapped",
        "female_e_mpa": 70000,
        "bearing_diameter_mm": 12.33,
        "preload_n": 14000,
        "layers": [{"thickness_mm": 5, "outer_mm": 40, "hole_mm": 9, "e_mpa": 70300}],
    },
    "turn-angle": {
        "thread": "M8",
        "female": "tapped",
        "female_e_mpa": 70000,
        "bearing_diameter_mm": 12.33,
        "preload_n": 14000,
        "gap_mm": 0.2,
        "layers": [{"thickness_mm": 5, "outer_mm": 40, "hole_mm": 9, "e_mpa": 70300}],
    },
    "bearing-faces": {
        "preload_n": 18000,
        "parts": [
            {"name": "head", "outer_mm": 12.33},
            {"name": "plate", "outer_mm": 40, "hole_mm": 9, "pressure_limit_mpa": 230},
            {"name": "spacer", "outer_mm": 10.6, "hole_mm": 8.5, "pressure_limit_mpa": 490},
            {"name": "boss", "hole_mm": 8, "pressure_limit_mpa": 290},
        ],
    },
    "wear-left": {
        "readings": [{"km": 0, "thickness_mm": 10}, {"km": 3000, "thickness_mm": 8.8}],
        "reading_u_mm": 0.1,
        "limit_mm": 5,
    },
    "spares": {
        "joints": [
            {"key": "1", "thread": "M8", "drive": "6 mm hex key", "lengths_mm": [30, 35]},
            {"key": "2", "thread": "M8", "drive": "6 mm hex key", "lengths_mm": [25, 30]},
        ]
    },
    "coverage": {"parts": [_SUMP], "plate": _BOX_PLATE},
    "heat": {"hot_surface_c": 330, "gap_mm": 25, "facing_area_mm2": 6000, "service_limit_c": 80},
    "airflow": {"parts": [_SUMP], "plate": _BOX_PLATE},
    "ring": {
        "material": "aluminium 5052-H32",
        "thickness_mm": 4,
        "slider_material": "HDPE",
        "slider_thickness_mm": 6,
    },
    "corrosion": {
        "pairs": [{"where": "joint 3, thread", "first": "stainless", "second": "aluminium"}]
    },
    "service": {"way": "plate off", "screws": 6},
    "shell-response": {
        **_SHEET,
        "mounts": _HELD,
        "mesh_mm": 20,
        "loads": [{"panel": "belly", "at_mm": [150, 0]}],
    },
    "strike-response": {
        "plate_stiffness_n_per_mm": 570,
        "thickness_mm": 4,
        "youngs_modulus_mpa": 70000,
        "poisson": 0.33,
        "yield_mpa": 190,
        "in_plane_stiffness_n_per_mm": 10000,
        "energies_j": [15, 60, 150],
    },
    "strike-map": _STRUCK,
    "strike-held": _STRUCK,
    "strike-point": {"asked": _STRUCK, "x_mm": 650, "y_mm": 0},
    "dent-energy": {"asked": _STRUCK, "x_mm": 650, "y_mm": 20, "depth_mm": 4},
    "decide": {
        "criteria": [
            {"key": "mass", "name": "keep it light", "worst": 8, "best": 1, "weight": 2},
            {
                "key": "cover",
                "name": "protect the engine",
                "worst": 20,
                "best": 95,
                "weight": 3,
            },
        ],
        "options": [
            {"key": "a", "name": "aluminium pan", "values": [2.9, 69]},
            {"key": "s", "name": "steel tray", "values": [5.1, 82]},
        ],
    },
    "strike": {
        **_SHEET,
        "mounts": _HELD,
        "mesh_mm": 20,
        "yield_mpa": 190,
        "energies_j": [15, 60],
        "strike": {"panel": "belly", "at_mm": [150, 0], "direction": [0, 0, 1]},
    },
}
