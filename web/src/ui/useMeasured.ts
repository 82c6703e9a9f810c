import { type RefObject, useLayoutEffect, useRef, useState } from "react";

/** An element's size in whole pixels, kept up to date. */
export function useMeasured<T extends HTMLElement>(): [
  RefObject<T | null>,
  { width: number; height: number } | undefined,
] {
  const element = useRef<T>(null);
  const [size, setSize] = useState<{ width: number; height: number }>();
  useLayoutEffect(() => {
    const target = element.current;
    if (!target) return;
    const measure = () => setSize({ width: target.clientWidth, height: target.clientHeight });
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(target);
    return () => observer.disconnect();
  }, []);
  return [element, size];
}
