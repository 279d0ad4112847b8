'use client';

import { useMutation, useQuery } from '@tanstack/react-query';
import { areaTitle } from '@/core/catalog/blank';
import { variantName } from '@/core/variants/tiers';
import { Alert } from '@/ui/Alert';
import { call } from '@/ui/api';
import { queries } from '@/ui/queries';
import { Button } from '@/ui/Button';
import { Sheet } from '@/ui/Sheet';
import { useDesk } from './desk';

interface PrintFileView {
  readonly key: string;
  readonly name: string;
  readonly areaKey: string;
  readonly widthPx: number;
  readonly heightPx: number;
  readonly widthMm: number;
  readonly heightMm: number;
  readonly bleedMm: number;
  readonly dpi: number;
  readonly variantKeys: readonly string[];
  readonly sha256: string | null;
  readonly href: string;
}

const Download = ({ href, name, of }: { href: string; name: string; of: string }) => (
  <a
    className="ml-3 inline-grid min-h-6 place-items-center text-primary underline underline-offset-2"
    href={href}
    download
    aria-label={`Download ${of} as ${name}`}
  >
    {name}
  </a>
);

const ENDED = ['done', 'failed', 'cancelled'];

/** The print files of a product as they are now, and how the missing ones are made. */
function usePrintFiles(productId: string, enabled: boolean) {
  const path = `/products/${productId}/print-files`;
  const client = queries();
  const queryKey = ['product', productId, 'print-files'];
  const files = useQuery(
    {
      queryKey,
      queryFn: () => call<{ printFiles: PrintFileView[] }>('GET', path).then((answer) => answer.printFiles),
      enabled,
      // Those that a job has made are there as it goes on.
      meta: { topics: ['job'] },
    },
    queries(),
  );
  const make = useMutation(
    {
      mutationFn: () => call<{ jobId: string }>('POST', path),
      onSuccess: () => client.invalidateQueries({ queryKey }),
    },
    queries(),
  );
  const jobId = make.data?.jobId;
  const job = useQuery(
    {
      queryKey: ['job', jobId],
      queryFn: () => call<{ state: string; error: { message: string } | null }>('GET', `/jobs/${jobId}`),
      enabled: jobId !== undefined,
    },
    queries(),
  );
  const failed = job.data?.state === 'failed' ? (job.data.error?.message ?? 'The files could not be made.') : null;
  return {
    path,
    files: files.data ?? null,
    making: make.isPending || (jobId !== undefined && !ENDED.includes(job.data?.state ?? '')),
    error: make.error?.message ?? failed ?? files.error?.message ?? null,
    make: () => make.mutate(),
  };
}

/** The files that the partner prints, to make, look at and keep. */
export function PrintFilesSheet({ open, onClose }: { open: boolean; onClose: () => void }) {
  const { data } = useDesk('data');
  const { path, files, making, error, make } = usePrintFiles(data.product.id, open);
  const missing = files?.filter((file) => file.sha256 === null).length ?? 0;
  return (
    <Sheet open={open} onClose={onClose} title="Print files" wide>
      {error && <Alert className="mb-3">{error}</Alert>}
      {files?.length === 0 && (
        <p className="text-muted">
          There is nothing to print yet: place artwork on an area and choose at least one variant.
        </p>
      )}
      {files && files.length > 0 && (
        <>
          <Files files={files} making={making} />
          <Button kind="primary" onClick={make} disabled={missing === 0 || making}>
            {making ? 'Making …' : missing === 0 ? 'All made' : `Make ${missing === 1 ? '1 file' : `${missing} files`}`}
          </Button>
          {missing === 0 && (
            <span className="ml-4 inline-flex items-baseline text-small">
              All with a manifest (ZIP):
              <Download href={`/api/v1${path}/archive`} name="PNG" of="all" />
              {files.some((file) => file.bleedMm > 0) && (
                <Download href={`/api/v1${path}/archive?form=pdf`} name="PDF with trim and bleed" of="all" />
              )}
            </span>
          )}
        </>
      )}
    </Sheet>
  );
}

function Files({ files, making }: { files: readonly PrintFileView[]; making: boolean }) {
  const { data } = useDesk('data');
  const areaName = (key: string) => {
    const area = data.blank.areas.find((one) => one.key === key);
    return area ? areaTitle(data.blank, area) : key;
  };
  const sizes = (keys: readonly string[]) => {
    const names = new Set(keys.map((key) => variantName(data.blank, key).split(', ').at(-1)!));
    return [...names].join(', ');
  };
  return (
    <table className="w-full text-small mb-4">
      <thead className="text-left text-muted border-y border-hairline">
        <tr>
          <th className="font-normal py-1.5 w-24" aria-label="Picture" />
          <th className="font-normal">Area</th>
          <th className="font-normal">Sizes</th>
          <th className="font-normal text-right">Millimeters</th>
          <th className="font-normal text-right">Pixels</th>
          <th className="font-normal text-right">DPI</th>
          <th />
        </tr>
      </thead>
      <tbody>
        {files.map((file) => (
          <tr key={file.key} className="border-b border-hairline">
            <td className="py-1.5">
              {file.sha256 ? (
                <a href={`${file.href}?show=1`} target="_blank" rel="noreferrer">
                  <img
                    src={`${file.href}?size=proof`}
                    alt={`Print file of the ${areaName(file.areaKey)}`}
                    className="h-16 w-20 object-contain border border-hairline bg-[repeating-conic-gradient(var(--color-board)_0_25%,var(--color-sheet)_0_50%)] bg-[length:10px_10px]"
                  />
                </a>
              ) : (
                <span className="text-muted">{making ? '◔ being made' : 'not made'}</span>
              )}
            </td>
            <td>{areaName(file.areaKey)}</td>
            <td>{sizes(file.variantKeys)}</td>
            <td className="text-right">
              {file.widthMm} × {file.heightMm}
              {file.bleedMm > 0 && <span className="block text-muted">+ {file.bleedMm} bleed</span>}
            </td>
            <td className="text-right font-mono">
              {file.widthPx} × {file.heightPx}
            </td>
            <td className="text-right">{file.dpi}</td>
            <td className="text-right pl-4">
              <Download href={file.href} name="PNG" of={areaName(file.areaKey)} />
              {file.bleedMm > 0 && <Download href={`${file.href}?form=pdf`} name="PDF" of={areaName(file.areaKey)} />}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
