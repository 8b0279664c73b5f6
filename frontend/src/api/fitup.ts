import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api, at, type Body, unwrap } from "./client";
import { useJobId, useStation } from "./job";
import type { Write } from "./types";

export const useFitup = () =>
  useStation("fit-up", (id) => unwrap(api.GET("/api/jobs/{job_id}/fit-up", at(id))));

export function useJoint(key: string) {
  const job_id = useJobId();
  return useQuery({
    queryKey: ["job", job_id, "joint", key],
    enabled: key !== "",
    queryFn: () =>
      unwrap(
        api.GET("/api/jobs/{job_id}/fit-up/joints/{key}", { params: { path: { job_id, key } } }),
      ),
  });
}

/** Build a joint of one's own from a starting point. */
export const addJoint =
  (body: Body<"JointWrite">): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/fit-up/joints", { ...at(job_id), body: { ...base, ...body } }),
    );

/** One treatment for every joint, and the sheet's torque by size. */
export const sayForAll =
  (body: Body<"AllJointsWrite">): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/fit-up/joints/all", {
        ...at(job_id),
        body: { ...base, ...body },
      }),
    );

/** Take a joint out of the job. */
export const removeJoint =
  (key: string): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/fit-up/joints/{key}/remove", {
        params: { path: { job_id, key } },
        body: base,
      }),
    );

/** Add a layer to a joint. */
export const addLayer =
  (key: string, body: Body<"LayerWrite">): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/fit-up/joints/{key}/layers", {
        params: { path: { job_id, key } },
        body: { ...base, ...body },
      }),
    );

/** Take a layer out of a joint for good. */
export const removeLayer =
  (key: string, layer: string): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/fit-up/joints/{key}/layers/{layer}/remove", {
        params: { path: { job_id, key, layer } },
        body: base,
      }),
    );

/** A nut on the end of a joint's screw, beyond its first thread. */
export const addFarNut =
  (key: string): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/fit-up/joints/{key}/far", {
        params: { path: { job_id, key } },
        body: base,
      }),
    );

/** The sink under a joint's countersunk head, as measured. */
export const enterSink =
  (key: string, sink: Body<"SinkWrite">): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/fit-up/joints/{key}/sink", {
        params: { path: { job_id, key } },
        body: { ...base, ...sink },
      }),
    );

/** Take a nut off the end of a joint's screw. */
export const removeFarNut =
  (key: string, far: string): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/fit-up/joints/{key}/far/{far}/remove", {
        params: { path: { job_id, key, far } },
        body: base,
      }),
    );

export const useHoles = () =>
  useStation("holes", (id) => unwrap(api.GET("/api/jobs/{job_id}/fit-up/holes", at(id))));

/** Millimetres from taps in a photograph; nothing is saved. */
export const readPhoto = (job_id: string, body: Body<"PhotoAsk">) =>
  unwrap(api.POST("/api/jobs/{job_id}/fit-up/holes/photo", { ...at(job_id), body }));

/** What a photograph says becomes what was seen at each hole. */
export const takePhoto =
  (asked: Body<"PhotoAsk">): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/fit-up/holes/photo/take", {
        ...at(job_id),
        body: { ...base, asked },
      }),
    );

export const useOrder = () =>
  useStation("order", (id) => unwrap(api.GET("/api/jobs/{job_id}/fit-up/order", at(id))));

/** The plan tightens in this order and starts in that; empty: as worked out, and as torqued. */
export const takeOrder =
  (order: string[], starts: string[] = []): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/fit-up/order", {
        ...at(job_id),
        body: { ...base, order, starts },
      }),
    );

export const usePieces = () =>
  useStation("pieces", (id) => unwrap(api.GET("/api/jobs/{job_id}/fit-up/pieces", at(id))));

/** A further piece of the plate becomes a layer of a joint's stack. */
export const stackPiece =
  (body: Body<"StackWrite">): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/fit-up/pieces/stack", {
        ...at(job_id),
        body: { ...base, ...body },
      }),
    );

/** A part with all its joints, left and right in one go. */
export const putOn =
  (body: Body<"PutOnWrite">): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/fit-up/pieces/parts", {
        ...at(job_id),
        body: { ...base, ...body },
      }),
    );

/** Use one of the plate's sets of holes; empty: none is chosen. */
export const chooseHoleSet =
  (name: string): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/fit-up/pieces/hole-set", {
        ...at(job_id),
        body: { ...base, name },
      }),
    );

export const useNeighbours = () =>
  useStation("neighbours", (id) => unwrap(api.GET("/api/jobs/{job_id}/fit-up/neighbours", at(id))));

/** Put on the list what is always looked at. */
export const listUsual: Write = (job_id, base) =>
  unwrap(api.POST("/api/jobs/{job_id}/fit-up/neighbours/usual", { ...at(job_id), body: base }));

/** Note how close a neighbour comes. */
export const noteLook =
  (key: string, body: Body<"LookWrite">): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/fit-up/neighbours/{key}/look", {
        params: { path: { job_id, key } },
        body: { ...base, ...body },
      }),
    );

/** Take a look back. */
export const forgetLook =
  (key: string): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/fit-up/neighbours/{key}/forget", {
        params: { path: { job_id, key } },
        body: base,
      }),
    );

export const useChanges = () =>
  useStation("changes", (id) => unwrap(api.GET("/api/jobs/{job_id}/fit-up/changes", at(id))));

/** A tap on the flat drawing as a place that can be typed. */
export const placeInFlat = (job_id: string, x_drawn: number, y_drawn: number) =>
  unwrap(
    api.POST("/api/jobs/{job_id}/fit-up/changes/place", {
      ...at(job_id),
      body: { x_drawn, y_drawn },
    }),
  );

/** What a change does before it is taken; null: nothing is asked yet. */
export function useEffectOf(asked: Body<"ChangeAsk"> | null) {
  const job_id = useJobId();
  return useQuery({
    queryKey: ["job", job_id, "change", asked],
    enabled: asked !== null,
    placeholderData: keepPreviousData,
    retry: false,
    queryFn: ({ signal }) =>
      unwrap(
        api.POST("/api/jobs/{job_id}/fit-up/changes/try", {
          ...at(job_id),
          body: asked as Body<"ChangeAsk">,
          signal,
        }),
      ),
  });
}

/** What a blow does before and after it, which takes longer. */
export function useStrikeOf(asked: Body<"ChangeAsk"> | null) {
  const job_id = useJobId();
  return useQuery({
    queryKey: ["job", job_id, "change strike", asked],
    enabled: asked !== null,
    retry: false,
    queryFn: ({ signal }) =>
      unwrap(
        api.POST("/api/jobs/{job_id}/fit-up/changes/strike", {
          ...at(job_id),
          body: asked as Body<"ChangeAsk">,
          signal,
        }),
      ),
  });
}

/** The change becomes a fact of the plate. */
export const makeChange =
  (asked: Body<"ChangeAsk">): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/fit-up/changes", { ...at(job_id), body: { ...base, asked } }),
    );

/** Take a change back with all that it brought. */
export const takeBackChange =
  (key: string): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/fit-up/changes/{key}/remove", {
        params: { path: { job_id, key } },
        body: base,
      }),
    );

/** A change is carried out, or is not after all. */
export const tickChange =
  (key: string, done: boolean): Write =>
  (job_id, base) =>
    unwrap(
      api.POST("/api/jobs/{job_id}/fit-up/changes/{key}/done", {
        params: { path: { job_id, key } },
        body: { ...base, done },
      }),
    );

/** The sheet of known size that lies in a photograph, to print. */
export const checkSheetUrl = (job_id: string, paper: "a4" | "letter") =>
  `/api/jobs/${job_id}/fit-up/holes/check-sheet-${paper}.pdf`;
