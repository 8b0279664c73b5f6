import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { api, at, type Body, unwrap } from "./client";
import { Refusal, wordsFor } from "./errors";
import type { Write } from "./types";

/** The job in the address. */
export function useJobId(): string {
  return useParams().job ?? "";
}

export function useFrame() {
  const job_id = useJobId();
  return useQuery({
    queryKey: ["frame", job_id],
    queryFn: () => unwrap(api.GET("/api/jobs/{job_id}", at(job_id))),
  });
}

/** The view of one station of the job in the address. */
export function useStation<T>(name: string, fetchIt: (job_id: string) => Promise<T>) {
  const job_id = useJobId();
  return useQuery({
    queryKey: ["job", job_id, name],
    queryFn: () => fetchIt(job_id),
    placeholderData: keepPreviousData,
  });
}

/** Set one fact of the job from typed text. */
export const setField =
  (body: Body<"FieldWrite">): Write =>
  (job_id, base) =>
    unwrap(api.PATCH("/api/jobs/{job_id}/field", { ...at(job_id), body: { ...base, ...body } }));

export const undo: Write = (job_id, base) =>
  unwrap(api.POST("/api/jobs/{job_id}/undo", { ...at(job_id), body: base }));

export const redo: Write = (job_id, base) =>
  unwrap(api.POST("/api/jobs/{job_id}/redo", { ...at(job_id), body: base }));

/** Add to one of the job's lists: from nothing, a copy, or a mirror image. */
export const addItem =
  (where: string, like = "", mirror = false): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/survey/items", {
        ...at(job_id),
        body: { ...base, where, like, mirror },
      }),
    );

/** Take an item out of one of the job's lists. */
export const removeItem =
  (where: string, key: string): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/survey/items/{where}/{key}/remove", {
        params: { path: { job_id, where, key } },
        body: base,
      }),
    );

/** Where the job's own file is handed out. */
export const jobFileUrl = (job_id: string) => `/api/jobs/${job_id}/file`;

/** The job file and the job's photos in one zip. */
export const jobBundleUrl = (job_id: string) => `/api/jobs/${job_id}/bundle`;

/** Sends a job file, or a zip of one with its photos, as it is; the server checks every byte. */
export async function bringIn(file: File): Promise<{ id: string; title: string }> {
  const zip = file.name.toLowerCase().endsWith(".zip");
  const body = zip ? file : await file.text();
  const sent = unwrap(
    api.POST("/api/jobs", {
      body: {},
      bodySerializer: () => body,
      headers: { "Content-Type": zip ? "application/zip" : "application/json" },
    }),
  );
  return sent.catch((error: unknown) => {
    if (error instanceof Refusal)
      error.message = `${wordsFor(error)} Place: ${error.answer.error.field}.`;
    throw error;
  });
}

/** Begins a job from a starting layout or a bike of the shelf. */
export const startJob = (body: Body<"NewJob"> & { key: string }) =>
  unwrap(api.POST("/api/new-job", { body }));

export const useLayouts = () =>
  useQuery({ queryKey: ["layouts"], queryFn: () => unwrap(api.GET("/api/layouts")) });

/** A job for a plate that is already there: straight to its kit. */
export const startFit = (body: Body<"NewFit"> & { key: string }) =>
  unwrap(api.POST("/api/new-fit", { body }));

/** A job of the invented scenario to look at. */
export const takeExample = () => unwrap(api.POST("/api/example", { body: {} }));

/** What a pasted hardware list would become, before there is a job for it. */
export const previewHardware = (body: Body<"CsvText">) =>
  unwrap(api.POST("/api/hardware/preview", { body }));
