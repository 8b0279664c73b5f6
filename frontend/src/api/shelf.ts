import { useQuery, useQueryClient } from "@tanstack/react-query";
import { api, at, unwrap } from "./client";
import { useJobId } from "./job";

export const useShelf = () =>
  useQuery({ queryKey: ["shelf"], queryFn: () => unwrap(api.GET("/api/shelf")) });

/** Puts a bike or plate on the shelf, or throws something off it. */
export function useShelfActs() {
  const queries = useQueryClient();
  const job_id = useJobId();
  return {
    add: async (kind: "bike" | "plate", plate = "") =>
      queries.setQueryData(
        ["shelf"],
        await unwrap(
          api.POST("/api/jobs/{job_id}/shelf", { ...at(job_id), body: { kind, plate } }),
        ),
      ),
    addTool: async (item: string, tool: string) =>
      queries.setQueryData(
        ["shelf"],
        await unwrap(
          api.POST("/api/shelf/{item}/roll", { params: { path: { item } }, body: { tool } }),
        ),
      ),
    takeTool: async (item: string, key: string) =>
      queries.setQueryData(
        ["shelf"],
        await unwrap(
          api.POST("/api/shelf/{item}/roll/{key}/remove", {
            params: { path: { item, key } },
            body: {},
          }),
        ),
      ),
    remove: async (item: string) =>
      queries.setQueryData(
        ["shelf"],
        await unwrap(
          api.POST("/api/shelf/{item}/remove", { params: { path: { item } }, body: {} }),
        ),
      ),
  };
}
