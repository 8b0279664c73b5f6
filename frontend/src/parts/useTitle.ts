import { useEffect } from "react";

/** The page's title, the nearest thing first: among many tabs the first words tell which it is. */
export function useTitle(...names: readonly (string | undefined)[]) {
  const title = [...names.filter(Boolean), "Rugged Shield"].join(" · ");
  useEffect(() => {
    document.title = title;
  }, [title]);
}
