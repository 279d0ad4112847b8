import { rulerStep, type Window } from '@/bench/viewing';

const THICK_PX = 18;

/** Rulers along the top and the left of the surface, counted from the trim's corner. */
export function Rulers({ window, unit }: { window: Window; unit: 'cm' | 'in' }) {
  const step = rulerStep(window.pxPerMm, unit);
  const named = (mm: number) => {
    const value = unit === 'cm' ? mm / 10 : mm / 25.4;
    return String(Math.round(value * 1000) / 1000).replace('-', '−');
  };
  const marks = (from: number, length: number) => {
    const first = Math.ceil(from / step);
    return Array.from({ length: Math.floor((from + length) / step) - first + 1 }, (_, i) => (first + i) * step);
  };
  const at = (mm: number, from: number) => (mm - from) * window.pxPerMm;
  return (
    <>
      <svg
        aria-hidden
        className="absolute left-[18px] top-0 w-[calc(100%-18px)] bg-paper pointer-events-none"
        height={THICK_PX}
      >
        {marks(window.left, window.widthMm).map((mm) => (
          <g key={mm} transform={`translate(${at(mm, window.left)} 0)`}>
            <line y1={mm === 0 ? 4 : 11} y2={THICK_PX} stroke="var(--color-muted)" />
            <text x={3} y={12} fontSize={9.5} fill="var(--color-muted)">
              {named(mm)}
            </text>
          </g>
        ))}
        <line x2="100%" y1={THICK_PX - 0.5} y2={THICK_PX - 0.5} stroke="var(--color-hairline)" />
      </svg>
      <svg
        aria-hidden
        className="absolute left-0 top-[18px] h-[calc(100%-18px)] bg-paper pointer-events-none"
        width={THICK_PX}
      >
        {marks(window.top, window.heightMm).map((mm) => (
          <g key={mm} transform={`translate(0 ${at(mm, window.top)})`}>
            <line x1={mm === 0 ? 4 : 11} x2={THICK_PX} stroke="var(--color-muted)" />
            <text transform="rotate(-90)" x={3} y={10} fontSize={9.5} fill="var(--color-muted)">
              {named(mm)}
            </text>
          </g>
        ))}
        <line y2="100%" x1={THICK_PX - 0.5} x2={THICK_PX - 0.5} stroke="var(--color-hairline)" />
      </svg>
      <span className="absolute left-0 top-0 grid size-[18px] place-items-center bg-paper text-[9px] text-muted">
        {unit}
      </span>
    </>
  );
}
