const TONES = new Map([
  ['in step', 'text-kept'],
  ['ahead', 'text-caution'],
  ['behind', 'text-caution'],
  ['split', 'text-stop'],
  ['on its way', 'text-ink'],
  ['refused', 'text-stop'],
  ['not listed', 'text-muted'],
]);

/** A sync state: its mark and its word, always both. */
export function Mark({ mark, word }: { mark: string; word: string }) {
  return (
    <span className={`whitespace-nowrap ${TONES.get(word) ?? ''}`}>
      <span aria-hidden className="inline-block w-4 text-center">
        {mark}
      </span>
      {word}
    </span>
  );
}

/** A color of the blank as a small square with its name for those who do not see it. */
export function Swatch({ hex, name, size = 14 }: { hex: string; name: string; size?: number }) {
  return (
    <span
      role="img"
      aria-label={name}
      title={name}
      className="inline-block rounded-[2px] border border-ink/25"
      style={{ background: hex, width: size, height: size }}
    />
  );
}
