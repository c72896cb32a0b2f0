import { type ReactNode, useEffect, useRef, useState } from "react";

type Props = { estimate: number; children: () => ReactNode };
/** How far beyond the window's edges something counts as in sight, in pixels. */
const NEAR = 700;

/** Draws its children while they are in sight or near it, and keeps their room else: `estimate` pixels, until they have been drawn. */
export function WhenInSight({ estimate, children }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const height = useRef(estimate);
  const [drawn, setDrawn] = useState(false);
  useEffect(() => {
    const element = box.current;
    if (!element) return;
    const watcher = new IntersectionObserver(
      (seen) => {
        const near = seen.at(-1)?.isIntersecting ?? false;
        // What has the focus stays, wherever it was scrolled to.
        if (!near && element.contains(document.activeElement)) return;
        if (!near && element.childElementCount) height.current = element.offsetHeight;
        setDrawn(near);
      },
      { rootMargin: `${NEAR}px 0px` },
    );
    watcher.observe(element);
    return () => watcher.disconnect();
  }, []);
  return (
    <div ref={box} style={drawn ? undefined : { height: height.current }}>
      {drawn && children()}
    </div>
  );
}
