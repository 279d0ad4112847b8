'use client';

import { EntryField } from './Field';

/** A color, picked or typed as `#2d4a53`. */
export function ColorField({
  label,
  value,
  onChange,
  showLabel = true,
}: {
  label: string;
  value: string;
  onChange: (hex: string) => void;
  showLabel?: boolean;
}) {
  return (
    <span className="inline-flex items-center gap-1.5">
      {showLabel && <span className="text-small text-muted">{label}</span>}
      <input
        type="color"
        aria-label={`${label}: pick`}
        className="size-6 cursor-pointer rounded-paper border border-edge bg-transparent p-0"
        value={value}
        onChange={(e) => onChange(e.target.value.toLowerCase())}
      />
      <EntryField
        label={label}
        showLabel={false}
        width="w-[68px]"
        align="left"
        text={value}
        read={(typed) => {
          const hex = typed.trim().toLowerCase().replace(/^#?/, '#');
          if (!/^#[0-9a-f]{6}$/.test(hex)) throw new Error(`“${typed}” is not a color; write it as #2d4a53.`);
          onChange(hex);
        }}
      />
    </span>
  );
}
