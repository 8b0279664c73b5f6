import { keepPreviousData, skipToken, useQuery } from "@tanstack/react-query";
import { api, at, type Body, unwrap } from "./client";
import { Refusal } from "./errors";
import { useJobId, useStation } from "./job";
import type { FieldView, Ghost, PlateView, SurveyView, System, Write } from "./types";

export const useSurvey = () =>
  useStation("survey", (id) => unwrap(api.GET("/api/jobs/{job_id}/survey", at(id))));
export const useUnderside = () =>
  useStation("underside", (id) => unwrap(api.GET("/api/jobs/{job_id}/survey/underside", at(id))));
export function useMeasureNext(ready: boolean) {
  const job_id = useJobId();
  return useQuery({
    queryKey: ["job", job_id, "measure next"],
    enabled: ready,
    queryFn: () => unwrap(api.GET("/api/jobs/{job_id}/survey/measure-next", at(job_id))),
  });
}
export const useWeighings = () =>
  useStation("weighings", (id) => unwrap(api.GET("/api/jobs/{job_id}/weighings", at(id))));
export const useStrip = () =>
  useStation("strip", (id) => unwrap(api.GET("/api/jobs/{job_id}/strip", at(id))));

export const usePlate = (key: string) =>
  useStation(`plate ${key}`, (job_id) =>
    unwrap(api.GET("/api/jobs/{job_id}/plates/{key}", { params: { path: { job_id, key } } })),
  );

export function useComparison(key: string, other: string) {
  const job_id = useJobId();
  return useQuery({
    queryKey: ["job", job_id, "against", key, other],
    enabled: other !== "",
    queryFn: () =>
      unwrap(
        api.GET("/api/jobs/{job_id}/plates/{key}/against/{other}", {
          params: { path: { job_id, key, other } },
        }),
      ),
  });
}

/** The sketch that shows where the tape goes for one number; none for other fields. */
export function useSketch(key: string, field: FieldView | undefined) {
  const job_id = useJobId();
  const name = field?.name ?? "";
  return useQuery({
    queryKey: ["job", job_id, "sketch", key, name],
    enabled: field !== undefined && field.axis !== "",
    placeholderData: keepPreviousData,
    queryFn: () =>
      unwrap(
        api.GET("/api/jobs/{job_id}/survey/sketch/{key}/{name}", {
          params: { path: { job_id, key, name } },
        }),
      ),
  });
}

/** What a view would be with the field in hand as it is being typed; undefined otherwise. */
function useFollow<T>(
  name: string,
  following: Following,
  ask: (job_id: string, body: Body<"WhatIf">) => Promise<T>,
) {
  const job_id = useJobId();
  const { ghost, system } = following;
  const query = useQuery({
    queryKey: ["what-if", job_id, name, ghost, system],
    // Half a number is refused; the last good picture stays until there is a better one.
    retry: (count, error) => !(error instanceof Refusal) && count < 1,
    placeholderData: keepPreviousData,
    gcTime: 0,
    queryFn: ghost === null ? skipToken : () => ask(job_id, { ...ghost, system }),
  });
  return ghost ? query.data : undefined;
}

/** The field in hand as it is being typed, and in which system. */
export type Following = { ghost: Ghost | null; system: System };

export const useSurveyFollow = (following: Following): SurveyView | undefined =>
  useFollow("survey", following, (job_id, body) =>
    unwrap(api.POST("/api/jobs/{job_id}/survey/what-if", { ...at(job_id), body })),
  );

export const usePlateFollow = (key: string, following: Following): PlateView | undefined =>
  useFollow(`plate ${key}`, following, (job_id, body) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/plates/{key}/what-if", {
        params: { path: { job_id, key } },
        body,
      }),
    ),
  );

/** A new plate to enter from its maker's sheet. */
export const addPlate =
  (body: Body<"NameWrite">): Write =>
  (job_id, base) =>
    unwrap(api.POST("/api/jobs/{job_id}/plates", { ...at(job_id), body: { ...base, ...body } }));

/** Shapes and sheets that a plate can start from, as they would be on this bike. */
export const useShapes = () =>
  useStation("shapes", (id) => unwrap(api.GET("/api/jobs/{job_id}/shapes", at(id))));

/** A plate by its shape, hung on the mounts that it reaches. */
export const addShaped =
  (body: Body<"ShapedWrite">): Write =>
  (job_id, base) =>
    unwrap(api.POST("/api/jobs/{job_id}/shapes", { ...at(job_id), body: { ...base, ...body } }));

/** A plate of the shelf as a candidate. */
export const addShelvedPlate =
  (body: Body<"ShelfWrite">): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/plates/from-shelf", {
        ...at(job_id),
        body: { ...base, ...body },
      }),
    );

/** A copy of a plate to try something on. */
export const copyPlate =
  (key: string): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/plates/{key}/copy", {
        params: { path: { job_id, key } },
        body: base,
      }),
    );

/** Take a candidate out of the job. */
export const removePlate =
  (key: string): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/plates/{key}/remove", {
        params: { path: { job_id, key } },
        body: base,
      }),
    );

/** Put a panel or slider on a plate, or take it off. */
export const setPanel =
  (key: string, body: Body<"PanelWrite">): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/plates/{key}/panel", {
        params: { path: { job_id, key } },
        body: { ...base, ...body },
      }),
    );

/** A new opening on the panel named. */
export const addCutout =
  (key: string, body: Body<"NameWrite">): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/plates/{key}/cutouts", {
        params: { path: { job_id, key } },
        body: { ...base, ...body },
      }),
    );

/** A further piece to start from. */
export const addPiece =
  (key: string): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/plates/{key}/pieces", {
        params: { path: { job_id, key } },
        body: base,
      }),
    );

/** A piece or side guard of the stock plate goes on with this one. */
export const reuseFromStock =
  (key: string, item: string): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/plates/{key}/pieces/from-stock", {
        params: { path: { job_id, key } },
        body: { ...base, item },
      }),
    );

/** Take a cutout or a piece off a plate. */
export const removeFromPlate =
  (key: string, item: string): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/plates/{key}/items/{item}/remove", {
        params: { path: { job_id, key, item } },
        body: base,
      }),
    );

/** A traced outline becomes the belly or a further piece. */
export const takeOutline =
  (key: string, body: Body<"OutlineWrite">): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/plates/{key}/outline", {
        params: { path: { job_id, key } },
        body: { ...base, ...body },
      }),
    );

/** A pair of readings, typed or taken. */
export const addPair =
  (key: string, body: Body<"PairWrite">): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/weighings/{key}/pairs", {
        params: { path: { job_id, key } },
        body: { ...base, ...body },
      }),
    );

/** Take a pair out, a misread one for instance. */
export const removePair =
  (key: string, which: string): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/weighings/{key}/pairs/{which}/remove", {
        params: { path: { job_id, key, which } },
        body: base,
      }),
    );

/** Enter the mean of a weighing as the weighed mass. */
export const adoptWeighing =
  (key: string): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/weighings/{key}/adopt", {
        params: { path: { job_id, key } },
        body: base,
      }),
    );

/** A fault where the underside was tapped. */
export const addFaultAt =
  (x_drawn: number, y_drawn: number): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/survey/faults/at", {
        ...at(job_id),
        body: { ...base, x_drawn, y_drawn },
      }),
    );

/** What may lie in a photograph, and which mounts can be tapped in it. */
export const usePhotoSheets = () =>
  useStation("photo sheets", (id) => unwrap(api.GET("/api/jobs/{job_id}/survey/photo", at(id))));

/** A plate's outline in millimetres from taps; nothing is saved. */
export const readPhotoOutline = (job_id: string, body: Body<"PhotoOutlineAsk">) =>
  unwrap(api.POST("/api/jobs/{job_id}/survey/photo/outline", { ...at(job_id), body }));

/** The outline becomes the plate's belly or a further piece. */
export const takePhotoOutline =
  (key: string, body: Body<"PhotoOutlineWrite">): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/survey/photo/outline/{key}/take", {
        params: { path: { job_id, key } },
        body: { ...base, ...body },
      }),
    );

/** Where a photograph has the mounts; nothing is saved. */
export const readPhotoMounts = (job_id: string, body: Body<"PhotoMountsAsk">) =>
  unwrap(api.POST("/api/jobs/{job_id}/survey/photo/mounts", { ...at(job_id), body }));

/** The mounts move to where the photograph has them. */
export const takePhotoMounts =
  (asked: Body<"PhotoMountsAsk">): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/survey/photo/mounts/take", {
        ...at(job_id),
        body: { ...base, asked },
      }),
    );
