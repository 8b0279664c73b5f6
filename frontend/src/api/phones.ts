import { type QueryClient, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, at, type Body, unwrap } from "./client";
import { Refusal } from "./errors";
import { useJobId } from "./job";

const LOOPBACK = ["localhost", "127.0.0.1", "[::1]"];
/** Whether this page came over a network: only then it may be a phone's. */
export const cameOverNetwork = () => !LOOPBACK.includes(window.location.hostname);

/** Who asks: a phone with its job, or the computer itself. */
export const useWho = () =>
  useQuery({
    queryKey: ["who"],
    queryFn: () => unwrap(api.GET("/api/who")),
    enabled: cameOverNetwork(),
  });

/** Phones that are let in for the job in the address, and the code that stands. */
export function usePhones() {
  const job_id = useJobId();
  return useQuery({
    queryKey: ["phones", job_id],
    queryFn: () => unwrap(api.GET("/api/jobs/{job_id}/phones", at(job_id))),
    refetchInterval: (query) => (query.state.data?.addresses.length ? 4000 : false),
  });
}

/** A new code, and the end of a phone. */
export function usePhoneActs() {
  const job_id = useJobId();
  const queries = useQueryClient();
  const keep = (view: unknown) => queries.setQueryData(["phones", job_id], view);
  const code = useMutation({
    mutationFn: () =>
      unwrap(api.POST("/api/jobs/{job_id}/phones/code", { ...at(job_id), body: {} })),
    onSuccess: keep,
  });
  const end = useMutation({
    mutationFn: (device: string) =>
      unwrap(api.POST("/api/jobs/{job_id}/phones/end", { ...at(job_id), body: { device } })),
    onSuccess: keep,
  });
  return { code, end };
}

/** Lets this phone in by a code. */
export const pairPhone = (body: Body<"LetInWrite">) => unwrap(api.POST("/api/pair", { body }));

type Who = Awaited<ReturnType<typeof pairPhone>>;

/** Who this phone is from now on; what was seen or refused before is asked anew. */
export function isNow(queries: QueryClient, who: Who) {
  queries.removeQueries({ predicate: (query) => query.queryKey[0] !== "who" });
  queries.setQueryData(["who"], who);
}

/** Whether a refusal says that this phone is let in no more. */
export const isShutOut = (error: unknown) =>
  error instanceof Refusal && error.answer.error.field === "phone";
