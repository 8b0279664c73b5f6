import type { Finding } from "../api/types";
import { VerdictMark } from "./Verdict";

/** What was found, each with its mark and its words. */
export function Findings({ findings }: { findings: readonly Finding[] }) {
  if (findings.length === 0) return null;
  return (
    <ul>
      {findings.map((f) => (
        <li key={f.code + f.text} data-finding={f.code} className="border-b border-rule py-1">
          <VerdictMark verdict={f.verdict} /> {f.text}
        </li>
      ))}
    </ul>
  );
}
