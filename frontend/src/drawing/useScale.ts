import { useLayoutEffect, useRef, useState } from "react";

/** How many drawing millimetres one CSS pixel is, so that text keeps its size on screen. */
export function useScale(width: number, height: number) {
  const ref = useRef<SVGSVGElement>(null);
  const [mm, setMm] = useState(1);
  useLayoutEffect(() => {
    const svg = ref.current;
    if (!svg) return;
    const measure = () => {
      const box = svg.getBoundingClientRect();
      if (box.width && box.height) setMm(Math.max(width / box.width, height / box.height));
    };
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(svg);
    return () => observer.disconnect();
  }, [width, height]);
  return { ref, mm };
}
