import type {
  CardView,
  Drawing,
  FieldView,
  Finding,
  Frame,
  KitLineView,
  SavedView,
  StepView,
  TightenView,
} from "../api/types";
import { FRAME, figure } from "./testing";

/** Replies of a job with two joints, small but whole: the compiler holds them to the contract. */
export const DRAWING: Drawing = {
  title: "Underside",
  x: 0,
  y: 0,
  width: 100,
  height: 100,
  paths: [],
  circles: [],
  marks: [],
  dimensions: [],
  scale_bar_mm: 100,
};

export const finding = (
  code: Finding["code"],
  text: string,
  verdict: Finding["verdict"],
): Finding => ({ code, text, verdict, where: "" });

export const field = (path: string, label: string, metric: string): FieldView => ({
  path,
  name: path.split(".").at(-1) ?? "",
  axis: "",
  label,
  kind: "number",
  metric,
  us: metric,
  unit_metric: "mm",
  unit_us: "in",
  allowed_metric: "a number from 0 mm to 100 mm",
  allowed_us: "a number from 0 in to 4 in",
  choices: [],
  known: "measured",
  note_metric: "",
  note_us: "",
  takes: "mm",
});

export const saved = (frame: Partial<Frame> = {}): { body: SavedView } => ({
  body: {
    version: 8,
    words: "done",
    frame: { ...(FRAME as unknown as Frame), version: 8, ...frame },
  } as SavedView,
});

export const card = (joint: string, number: number, more: Partial<CardView> = {}): CardView => ({
  card: {
    joint,
    number,
    name: "engine boss",
    sources: [
      {
        key: "manual",
        label: "Bike manual",
        printed_nm: 18,
        torque_nm: 18,
        note: "",
        decides: true,
      },
    ],
    limits: [],
    governing: "screw yields",
    limit_nm: 24,
    target_nm: 18,
    low_nm: 16,
    high_nm: 20,
    preload_min_n: 6000,
    preload_max_n: 11000,
    yield_share_max: 0.6,
    treatment: "medium thread locker",
    treatment_note: "on clean, dry threads",
    lubricant_factor: 0.9,
    setting_nm: 18,
    setting_note: "no extension: set the target itself",
    turned: "head",
    tool: "six-lobe T40",
    counter_tool: "",
    decision: "The manual decides.",
  },
  verdict: "sound",
  findings: [],
  stage: "stiff",
  stage_label: "stiff mounts",
  target: figure("target", "18.0 N·m"),
  low: figure("low", "16.0 N·m"),
  high: figure("high", "20.0 N·m"),
  setting: figure("setting", "18.0 N·m"),
  limits: [],
  sources: [figure("Bike manual", "18.0 N·m")],
  preload: [],
  state: "not started",
  started: false,
  reading: null,
  history: [],
  fields: [],
  ...more,
});

type StepKind = StepView["step"]["kind"];

export const step = (
  key: string,
  kind: StepKind,
  title: string,
  more: Partial<StepView> = {},
): StepView => ({
  step: {
    key,
    number: 1,
    kind,
    title,
    text: "as it says",
    stage: "stiff",
    joint: kind === "task" ? "" : "a1",
    where: "",
    tool: "six-lobe T40",
    hardware: "",
    treatment: "",
    torque_nm: null,
    setting_nm: null,
    caution: "",
    minutes: 1,
    after: [],
  },
  torque: null,
  setting: null,
  done: false,
  allowed: "",
  ...more,
});

export const tightenView = (more: Partial<TightenView> = {}): TightenView => ({
  plate: "Pan",
  picked: true,
  underside: DRAWING,
  cards: [card("a1", 1), card("a2", 2)],
  checks: [],
  steps: [
    step("prepare", "task", "Support the bike"),
    step("start:a1", "start", "Start joint 1 by hand"),
    step("full:a1", "full", "Torque joint 1", { setting: figure("setting", "18.0 N·m") }),
  ],
  at: 0,
  minutes: 40,
  wrench: [],
  ...more,
});

export const kitLine = (
  key: string,
  state: Partial<KitLineView["state"]> = {},
  more: Partial<KitLineView> = {},
): KitLineView => ({
  key,
  kind: "screw",
  name: `screw ${key}`,
  size: "M8 × 30",
  head: "ISO 4762",
  grade: "8.8",
  count: 4,
  already_fitted: 1,
  state: {
    key,
    counted: null,
    missing: 0,
    extra: 0,
    needed: 3,
    needed_by: [1, 2],
    state: "not counted",
    verdict: "not known",
    findings: [],
    ...state,
  },
  fields: [],
  more: [],
  applies: true,
  when: "",
  drawing: null,
  ...more,
});
