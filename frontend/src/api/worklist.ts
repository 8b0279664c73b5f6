import { useQuery } from "@tanstack/react-query";
import { api, at, unwrap } from "./client";
import type { JobSummary } from "./types";

/** The work list; asked again while jobs of it are still being worked out. */
export const useJobs = () =>
  useQuery({
    queryKey: ["jobs"],
    queryFn: () => unwrap(api.GET("/api/jobs")),
    refetchInterval: (query) => (query.state.data?.pending ? 400 : false),
  });

/** A job's bike from below with the plate in hand; asked once the line is in sight. */
export const usePicture = (job: JobSummary, seen: boolean) =>
  useQuery({
    queryKey: ["picture", job.id, job.version],
    enabled: seen && !job.trouble,
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: () => unwrap(api.GET("/api/jobs/{job_id}/picture", at(job.id))),
  });

export const putJob = (job_id: string, place: JobSummary["place"]) =>
  unwrap(api.POST("/api/jobs/{job_id}/place", { ...at(job_id), body: { place } }));

export const forgetJob = (job_id: string) =>
  unwrap(api.POST("/api/jobs/{job_id}/forget", { ...at(job_id), body: {} }));

export const copyJob = (job_id: string) =>
  unwrap(api.POST("/api/jobs/{job_id}/copy", { ...at(job_id), body: {} }));

/** Renames a job of the list: one field of it, based on the version that the list shows. */
export const renameJob = (job: JobSummary, title: string) =>
  unwrap(
    api.PATCH("/api/jobs/{job_id}/field", {
      ...at(job.id),
      body: {
        path: "title",
        text: title,
        system: "metric",
        version: job.version,
        key: crypto.randomUUID(),
      },
    }),
  );

/** Where a job is handed out as it is stored. */
export const rawUrl = (job_id: string) => `/api/jobs/${job_id}/raw`;
