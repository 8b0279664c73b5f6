import type { System } from "./types";

const STORED = "shield-units";

/** The system of units in which the server's sentences are asked for; remembered on this device. */
export const unitsSpoken = (): System => (localStorage.getItem(STORED) === "us" ? "us" : "metric");

/** Asks for all that follows in that system. What was fetched before must be asked for anew. */
export const speakIn = (system: System) => localStorage.setItem(STORED, system);
