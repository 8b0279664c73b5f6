import { useQuery, useQueryClient } from "@tanstack/react-query";
import { api, at, type Body, unwrap } from "./client";
import { useJobId, useStation } from "./job";
import type { Write } from "./types";
import { canWait } from "./waiting";

export const useKeep = () =>
  useStation("keep", (id) => unwrap(api.GET("/api/jobs/{job_id}/keep", at(id))));

/** What a blow did to the mounts; asked for, since the shell is solved for it. */
export function useBlow(seq: number | null) {
  const job_id = useJobId();
  return useQuery({
    queryKey: ["job", job_id, "keep", "blow", seq],
    enabled: seq !== null,
    queryFn: () =>
      unwrap(api.POST("/api/jobs/{job_id}/keep/blow", { ...at(job_id), body: { seq: seq ?? 0 } })),
  });
}

/** Where Keep's files are handed out. */
export const keepFile = (job_id: string, name: "due.ics" | "sheet.pdf" | "roll.pdf") =>
  `/api/jobs/${job_id}/keep/${name}`;

/** How a joint was found at a re-check. */
export const noteFound = canWait(
  "found",
  (body: Body<"FoundWrite">, about) =>
    body.held ? `${about} did not move` : `${about} found at ${body.text}`,
  (body): Write =>
    (job_id, base) =>
      unwrap(
        api.POST("/api/jobs/{job_id}/keep/found", { ...at(job_id), body: { ...base, ...body } }),
      ),
);

/** The joint has its own part again. */
export const payDebt = canWait(
  "debt",
  (debt: { key: string; instead_of: string }) => `its own part is in: ${debt.instead_of}`,
  ({ key }): Write =>
    (job_id, base) =>
      unwrap(
        api.POST("/api/jobs/{job_id}/kit/substitutes/{key}/pay", {
          params: { path: { job_id, key } },
          body: base,
        }),
      ),
);

/** Note the bike's counter now. */
export const noteCounter = canWait(
  "counter",
  (body: Body<"KmWrite">) => `counter ${body.text}`,
  (body): Write =>
    (job_id, base) =>
      unwrap(api.POST("/api/jobs/{job_id}/keep/km", { ...at(job_id), body: { ...base, ...body } })),
);

export const noteRide = canWait(
  "ride",
  (body: Body<"RideWrite">) => `ridden ${[body.km, body.hours].filter(Boolean).join(", ")}`,
  (body): Write =>
    (job_id, base) =>
      unwrap(
        api.POST("/api/jobs/{job_id}/keep/ride", { ...at(job_id), body: { ...base, ...body } }),
      ),
);

/** A blow where the drawing was tapped. */
export const noteBlow = canWait(
  "strike",
  (body: Body<"BlowWrite">) => `struck: ${body.felt}`,
  (body): Write =>
    (job_id, base) =>
      unwrap(
        api.POST("/api/jobs/{job_id}/keep/strike", { ...at(job_id), body: { ...base, ...body } }),
      ),
);

export const noteLooked = canWait(
  "look",
  (body: Body<"LookedOverWrite">) => `looked over: ${body.found || "all well"}`,
  (body): Write =>
    (job_id, base) =>
      unwrap(
        api.POST("/api/jobs/{job_id}/keep/look", { ...at(job_id), body: { ...base, ...body } }),
      ),
);

export const noteOil = canWait(
  "oil",
  (body: Body<"OilWrite">) => `oil changed ${body.minutes}`,
  (body): Write =>
    (job_id, base) =>
      unwrap(
        api.POST("/api/jobs/{job_id}/keep/oil", { ...at(job_id), body: { ...base, ...body } }),
      ),
);

export const noteWear = canWait(
  "wear",
  (body: Body<"WearWrite">) => `${body.place} ${body.text}`,
  (body): Write =>
    (job_id, base) =>
      unwrap(
        api.POST("/api/jobs/{job_id}/keep/wear", { ...at(job_id), body: { ...base, ...body } }),
      ),
);

export const notePart = canWait(
  "part",
  (body: Body<"PartWrite">) => `${body.what} ${body.done}`,
  (body): Write =>
    (job_id, base) =>
      unwrap(
        api.POST("/api/jobs/{job_id}/keep/part", { ...at(job_id), body: { ...base, ...body } }),
      ),
);

export const noteWarmth = canWait(
  "warmth",
  (body: Body<"WarmthWrite">) => `runs at ${body.running}`,
  (body): Write =>
    (job_id, base) =>
      unwrap(
        api.POST("/api/jobs/{job_id}/keep/warmth", { ...at(job_id), body: { ...base, ...body } }),
      ),
);

export const noteText = canWait(
  "note",
  (body: Body<"NoteWrite">) => `note: ${body.text}`,
  (body): Write =>
    (job_id, base) =>
      unwrap(
        api.POST("/api/jobs/{job_id}/keep/note", { ...at(job_id), body: { ...base, ...body } }),
      ),
);

/** Put off what is due, with a reason. */
export const putOff =
  (body: Body<"SnoozeWrite">): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/keep/snooze", { ...at(job_id), body: { ...base, ...body } }),
    );

/** A line does not count; it stays with the reason. */
export const voidLine =
  (body: Body<"VoidWrite">): Write =>
  (job_id, base) =>
    unwrap(api.POST("/api/jobs/{job_id}/keep/void", { ...at(job_id), body: { ...base, ...body } }));

/** Where a calendar can subscribe to what is due; whoever has an address can read it. */
export function useCalendar() {
  const job_id = useJobId();
  return useQuery({
    queryKey: ["job", job_id, "calendar"],
    queryFn: () => unwrap(api.GET("/api/jobs/{job_id}/calendar", at(job_id))),
  });
}

/** New private addresses; those given out before lead nowhere. */
export function useRenewCalendar() {
  const job_id = useJobId();
  const queries = useQueryClient();
  return async () =>
    queries.setQueryData(
      ["job", job_id, "calendar"],
      await unwrap(api.POST("/api/jobs/{job_id}/calendar/renew", { ...at(job_id), body: {} })),
    );
}
