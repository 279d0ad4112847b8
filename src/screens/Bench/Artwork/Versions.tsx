'use client';

import { changeLayer } from '@/bench/placing';
import { colorOption } from '@/core/catalog/blank';
import type { Layer, LayerVersion } from '@/core/document/document';
import { ownEntry } from '@/core/own-entry';
import { ColorField } from '@/ui/ColorField';
import { Select } from '@/ui/Select';
import { useDesk } from '../desk';

type Kind = 'own' | 'tint' | 'artwork';

/** What the selected layer looks like on the color in view: as it is, all in one color, or another artwork. */
export function Versions({ layerId, layer }: { layerId: string; layer: Layer }) {
  const desk = useDesk('data', 'areaKey', 'color', 'artworks', 'edit');
  const { data, areaKey, color, artworks } = desk;
  const value = colorOption(data.blank)?.values.find((one) => one.code === color);
  if (!value) return null;
  const version = ownEntry(layer.versions, value.code);
  const kind: Kind = version?.artworkId ? 'artwork' : version?.tint ? 'tint' : 'own';
  const put = (label: string, next: LayerVersion | null) =>
    desk.edit(
      label,
      (d) =>
        changeLayer(d, areaKey, layerId, (l) => {
          const { [value.code]: _gone, ...others } = l.versions ?? {};
          return { ...l, versions: next ? { ...others, [value.code]: next } : others };
        }),
      next?.tint ? `version:${layerId}` : undefined,
    );
  const others = artworks.filter(
    (artwork) => artwork.facts && (layer.kind !== 'artwork' || artwork.id !== layer.artworkId),
  );
  // A color that is seen on this ground: light on dark, dark on light.
  const seen = isDark(value.hex ?? '#ffffff') ? '#ffffff' : '#1a1c20';
  const kinds: { value: Kind; name: string }[] = [
    { value: 'own', name: 'as it is' },
    { value: 'tint', name: 'all in one color' },
    ...(layer.kind === 'artwork' && others.length > 0 ? [{ value: 'artwork' as const, name: 'another artwork' }] : []),
  ];
  return (
    <div className="grid gap-1.5 border-t border-hairline pt-2">
      <Select
        label={`On ${value.name}`}
        value={kind}
        choices={kinds}
        onChange={(next) =>
          put(
            `Version on ${value.name}`,
            next === 'own' ? null : next === 'tint' ? { tint: seen } : { artworkId: others[0]!.id },
          )
        }
      />
      {kind === 'tint' && (
        <ColorField label="in" value={version!.tint!} onChange={(tint) => put(`Version on ${value.name}`, { tint })} />
      )}
      {kind === 'artwork' && (
        <Select
          label="it is"
          value={version!.artworkId!}
          choices={others.map((artwork) => ({ value: artwork.id, name: artwork.name }))}
          onChange={(artworkId) => put(`Version on ${value.name}`, { artworkId })}
        />
      )}
    </div>
  );
}

function isDark(hex: string): boolean {
  const n = Number.parseInt(hex.slice(1), 16);
  return 0.3 * (n >> 16) + 0.59 * ((n >> 8) & 255) + 0.11 * (n & 255) < 140;
}
