import { useCallback, useEffect, useLayoutEffect, useRef, useState, type RefObject } from 'react';
import { WHOLE, windowOf, zoomAt, type View } from '@/bench/viewing';
import type { Box } from '@/core/geometry/box';

/**
 * What of an area is seen, and how large: it fills the room that there is, and is moved by the wheel and by Ctrl and the wheel. `of` is the
 * shape that is shown: another one is seen whole first. `room` is what is seen when all is seen, mm.
 */
export function useView(svg: RefObject<SVGSVGElement | null>, of: string, room: Box) {
  const [size, setSize] = useState({ width: 800, height: 600 });
  const [looked, setLooked] = useState<{ of: string; view: View }>({ of, view: WHOLE });
  const view = looked.of === of ? looked.view : WHOLE;
  const setView = (change: (view: View) => View) => setLooked({ of, view: change(view) });
  useLayoutEffect(() => {
    const observer = new ResizeObserver(
      ([entry]) => entry && setSize({ width: entry.contentRect.width, height: entry.contentRect.height }),
    );
    observer.observe(svg.current!);
    return () => observer.disconnect();
  }, [svg]);
  const window = windowOf(view, room, size);
  const px = 1 / window.pxPerMm;
  const pan = useCallback(
    (dx: number, dy: number) =>
      setLooked((before) => {
        const from = before.of === of ? before.view : WHOLE;
        return { of, view: { ...from, panX: from.panX + dx, panY: from.panY + dy } };
      }),
    [of],
  );
  const onWheel = (e: WheelEvent) => {
    // Else the browser would zoom the whole page, or scroll it.
    e.preventDefault();
    if (!e.ctrlKey && !e.metaKey) return pan(e.deltaX * px, e.deltaY * px);
    const bounds = svg.current!.getBoundingClientRect();
    const at = { x: window.left + (e.clientX - bounds.left) * px, y: window.top + (e.clientY - bounds.top) * px };
    setView((before) => zoomAt(before, Math.exp(-e.deltaY / 300), at, room));
  };
  const latestWheel = useRef(onWheel);
  useEffect(() => {
    latestWheel.current = onWheel;
  });
  useEffect(() => {
    // React listens passively to wheels, and a passive listener cannot hold the browser back.
    const listen = (e: WheelEvent) => latestWheel.current(e);
    const element = svg.current!;
    element.addEventListener('wheel', listen, { passive: false });
    return () => element.removeEventListener('wheel', listen);
  }, [svg]);
  return {
    window,
    px,
    pan,
    zoom: view.zoom,
    seeWhole: () => setView(() => WHOLE),
    zoomBy: (factor: number) =>
      setView((before) =>
        zoomAt(before, factor, { x: window.left + window.widthMm / 2, y: window.top + window.heightMm / 2 }, room),
      ),
  };
}
