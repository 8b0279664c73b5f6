/** Where a number is typed: its thing opened on the sheet that has it. */
export function sheetOf(path: string, job: string): string {
  const [root, list, key = ""] = path.split(".");
  if (root === "bike") return `/jobs/${job}/survey${key ? `?part=${key}` : ""}`;
  const joint = /\.?joints\.([^.]+)/.exec(path)?.[1];
  if (joint) return `/jobs/${job}/fit-up/${joint}`;
  return `/jobs/${job}/survey/plates/${root === "stock" ? "stock" : (list ?? "")}`;
}
