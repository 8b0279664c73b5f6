import type { MouseEvent } from "react";

/** Where a drawing was tapped, in the drawing's own millimetres; null beside it. */
export function tappedAt(event: MouseEvent<HTMLElement>): { x: number; y: number } | null {
  const svg = event.currentTarget.querySelector("svg");
  const matrix = svg?.getScreenCTM();
  if (!matrix) return null;
  const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse());
  return { x: point.x, y: point.y };
}
