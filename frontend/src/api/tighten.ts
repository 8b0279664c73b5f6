import { api, at, type Body, unwrap } from "./client";
import { useStation } from "./job";
import type { Write } from "./types";
import { canWait } from "./waiting";

export const useTighten = () =>
  useStation("tighten", (id) => unwrap(api.GET("/api/jobs/{job_id}/tighten", at(id))));

/** A screw was started by hand. */
export const startJoint = canWait(
  "started",
  (_body: Body<"ReadingWrite">, about) => about,
  (body: Body<"ReadingWrite">): Write =>
    (job_id, base) =>
      unwrap(
        api.POST("/api/jobs/{job_id}/tighten/started", {
          ...at(job_id),
          body: { ...base, ...body },
        }),
      ),
);

/** Record a torque reading. */
export const takeReading = canWait(
  "reading",
  (body: Body<"ReadingWrite">, about) => `${about}: ${body.clicked ? "clicked" : body.text}`,
  (body: Body<"ReadingWrite">): Write =>
    (job_id, base) =>
      unwrap(
        api.POST("/api/jobs/{job_id}/tighten/reading", {
          ...at(job_id),
          body: { ...base, ...body },
        }),
      ),
);

/** The reading that the linked wrench shows, to a joint or to the one that is next. */
export const fromWrench =
  (body: Body<"WrenchWrite">): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/tighten/wrench", { ...at(job_id), body: { ...base, ...body } }),
    );

/** Take a reading back; both lines stay in the record. */
export const takeBack = canWait(
  "reading taken back",
  (_body: Body<"TakeBackWrite">, about) => `${about}: taken back`,
  (body: Body<"TakeBackWrite">): Write =>
    (job_id, base) =>
      unwrap(
        api.POST("/api/jobs/{job_id}/tighten/take-back", {
          ...at(job_id),
          body: { ...base, ...body },
        }),
      ),
);

/** Tick a step of the work, or open it again. */
export const tickStep = canWait(
  "step",
  (body: Body<"StepWrite">, about) => (body.done ? about : `${about}: open again`),
  (body: Body<"StepWrite">): Write =>
    (job_id, base) =>
      unwrap(
        api.POST("/api/jobs/{job_id}/tighten/step", { ...at(job_id), body: { ...base, ...body } }),
      ),
);

/** Something of the bike was loosened: it is open until it is closed. */
export const loosened = canWait(
  "loosened",
  (body: Body<"LoosenWrite">) => `${body.name} is open`,
  (body: Body<"LoosenWrite">): Write =>
    (job_id, base) =>
      unwrap(
        api.POST("/api/jobs/{job_id}/tighten/loosened", {
          ...at(job_id),
          body: { ...base, ...body },
        }),
      ),
);

/** It is closed again. */
export const closed = canWait(
  "closed",
  (body: Body<"CloseWrite">) => `closed on the bike ${body.text || body.how}`,
  (body: Body<"CloseWrite">): Write =>
    (job_id, base) =>
      unwrap(
        api.POST("/api/jobs/{job_id}/tighten/closed", {
          ...at(job_id),
          body: { ...base, ...body },
        }),
      ),
);

/** Ridden though something is missing; the reason is kept. */
export const rideAnyway =
  (reason: string): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/tighten/ride-anyway", {
        ...at(job_id),
        body: { ...base, reason },
      }),
    );

/** A stage came loose again: its joints start anew. */
export const reopenStage = canWait(
  "stage",
  (body: Body<"StageWrite">) => `loose again: ${body.reason}`,
  (body): Write =>
    (job_id, base) =>
      unwrap(
        api.POST("/api/jobs/{job_id}/tighten/stage", { ...at(job_id), body: { ...base, ...body } }),
      ),
);

/** A joint's thread is damaged: it stays open until it is made good. */
export const threadDamaged = canWait(
  "thread damaged",
  (_body: Body<"DamagedWrite">, about) => `${about}: its thread is damaged`,
  (body): Write =>
    (job_id, base) =>
      unwrap(
        api.POST("/api/jobs/{job_id}/tighten/damaged", {
          ...at(job_id),
          body: { ...base, ...body },
        }),
      ),
);

/** A joint was made good: a new screw or nut, an insert. */
export const jointRenewed = canWait(
  "joint renewed",
  (body: Body<"RenewedWrite">, about) => `${about}: ${body.how}`,
  (body): Write =>
    (job_id, base) =>
      unwrap(
        api.POST("/api/jobs/{job_id}/tighten/renewed", {
          ...at(job_id),
          body: { ...base, ...body },
        }),
      ),
);

/** One finding is gone past, for a reason that stands on every sheet. */
export const passFinding =
  (body: Body<"PassWrite">): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/tighten/pass", { ...at(job_id), body: { ...base, ...body } }),
    );
