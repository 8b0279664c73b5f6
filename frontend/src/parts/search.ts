/** From so many things on a list it can be searched. */
export const SEARCH_FROM = 5;

/** Whether a text holds every word looked for, in any order and case; no word holds always. */
export function holds(text: string, looked: string): boolean {
  const all = text.toLocaleLowerCase();
  return looked
    .toLocaleLowerCase()
    .split(/\s+/)
    .filter(Boolean)
    .every((word) => all.includes(word));
}
