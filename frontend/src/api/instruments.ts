import { useQuery, useQueryClient } from "@tanstack/react-query";
import { api, unwrap } from "./client";

const POLL_MS = 400;

/**
 * How every instrument stands, asked again and again while someone looks; of one kind only,
 * only while there is one.
 */
export const useInstruments = (only = "") =>
  useQuery({
    queryKey: ["instruments"],
    refetchInterval: ({ state }) =>
      only === "" || state.data?.instruments.some((link) => link.key === only) ? POLL_MS : false,
    queryFn: () => unwrap(api.GET("/api/instruments")),
  });

/** The stable reading there is now, in the unit of the field that it is for. */
export const takeReadingFor = (key: string, unit: string) =>
  unwrap(api.POST("/api/instruments/{key}/take", { params: { path: { key } }, body: { unit } }));

/** Puts a load on a simulated instrument, as hands would. */
export function useLoad() {
  const queries = useQueryClient();
  return async (key: string, text: string) =>
    queries.setQueryData(
      ["instruments"],
      await unwrap(
        api.POST("/api/instruments/{key}/put", { params: { path: { key } }, body: { text } }),
      ),
    );
}
