import { useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { useJobId } from "../../api/job";
import type { Base, SavedView, SurveyView } from "../../api/types";
import { useAct } from "../../parts/useAct";

/** Runs a write that makes a plate and opens what came of it. */
export function usePlateMaker() {
  const { act, trouble, busy } = useAct();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const job = useJobId();
  const keys = () =>
    (queries.getQueryData<SurveyView>(["job", job, "survey"])?.plates ?? []).map((p) => p.key);
  const make = async (call: (job_id: string, base: Base) => Promise<SavedView>) => {
    const before = new Set(keys());
    if (!(await act(call))) return false;
    const made = keys().find((key) => !before.has(key));
    if (made) void navigate(`/jobs/${job}/survey/plates/${made}`);
    return true;
  };
  return { make, trouble, busy };
}
