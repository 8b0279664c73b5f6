const PLACE = "device name";

/** Whose device this is, as it was typed here once: it stands beside what is told from here. */
export const deviceName = (): string => localStorage.getItem(PLACE) ?? "";

export const nameDevice = (name: string) => localStorage.setItem(PLACE, name.trim().slice(0, 40));
