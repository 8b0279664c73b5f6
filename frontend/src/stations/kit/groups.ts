import type { KitLineView } from "../../api/types";

/** Ways to lay the lines out, in words. */
export const GROUPS = {
  list: "as listed",
  bag: "by bag",
  kind: "by what it is",
  joint: "by joint",
  side: "by side",
} as const;
export type Grouping = keyof typeof GROUPS;

type Joint = { number: number; name: string; side: string };
type Group = { title: string; lines: KitLineView[] };

const by = (lines: readonly KitLineView[], name: (line: KitLineView) => string): Group[] => {
  const groups = new Map<string, KitLineView[]>();
  for (const line of lines) {
    const title = name(line);
    groups.set(title, [...(groups.get(title) ?? []), line]);
  }
  return [...groups].map(([title, own]) => ({ title, lines: own }));
};

/** The joints that a line serves, as one heading: a line lies under all of them at once. */
const joints = (line: KitLineView) => {
  const numbers = [...new Set(line.state.needed_by)];
  if (numbers.length === 0) return "For no joint";
  return `For joint ${numbers.join(", ")}`;
};

const sides = (line: KitLineView, all: readonly Joint[]) => {
  const of = all.filter((joint) => line.state.needed_by.includes(joint.number));
  const left = of.some((joint) => joint.side.includes("left"));
  const right = of.some((joint) => joint.side.includes("right"));
  if (left && right) return "Both sides";
  return left ? "Left" : right ? "Right" : "Neither side";
};

/** Lines in groups, each with its heading; one group without a heading where they lie as listed. */
export function grouped(
  lines: readonly KitLineView[],
  how: Grouping,
  all: readonly Joint[],
): Group[] {
  if (how === "bag") return by(lines, (line) => (line.bag ? `Bag ${line.bag}` : "In no bag"));
  if (how === "kind")
    return by(lines, (line) => `${line.kind[0]?.toUpperCase()}${line.kind.slice(1)}`);
  if (how === "joint") return by(lines, joints);
  if (how === "side") return by(lines, (line) => sides(line, all));
  return [{ title: "", lines: [...lines] }];
}
