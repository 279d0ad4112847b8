import { Button } from '@/ui/Button';
import type { Upload, Uploads } from './use-uploads';

/** Uploads on their way with their progress, and those that failed with the reason. */
export function UploadList({ uploads, className = '' }: { uploads: Uploads; className?: string }) {
  const failed = uploads.all.filter(({ error }) => error !== null).length;
  if (uploads.all.length === 0) return null;
  return (
    <div className={`grid max-h-[60%] gap-2 overflow-auto ${className}`}>
      {failed > 1 && (
        <p className="flex items-baseline gap-4 rounded-paper border border-stop bg-sheet px-3 py-1.5 text-small">
          {failed} files could not be used.
          <Button kind="quiet" onClick={uploads.dismissFailed}>
            Dismiss all
          </Button>
        </p>
      )}
      <ul className="grid gap-2" aria-label="Uploads">
        {uploads.all.map((upload) => (
          <UploadLine key={upload.id} upload={upload} onDismiss={() => uploads.dismiss(upload.id)} />
        ))}
      </ul>
    </div>
  );
}

function UploadLine({ upload: { name, share, error }, onDismiss }: { upload: Upload; onDismiss: () => void }) {
  return (
    <li className={`rounded-paper border bg-sheet px-3 py-2 text-small ${error ? 'border-stop' : 'border-hairline'}`}>
      <div className="flex justify-between gap-3">
        <span className="font-medium truncate">{name}</span>
        {error && (
          <Button kind="quiet" aria-label={`Dismiss ${name}`} onClick={onDismiss}>
            Dismiss
          </Button>
        )}
      </div>
      {error ? (
        <p role="alert" className="text-stop">
          {error}
        </p>
      ) : (
        <>
          <progress aria-label={`Upload of ${name}`} className="w-full h-1 accent-primary" value={share} max={1} />
          <p className="text-tiny text-muted" role="status">
            {share < 1 ? `${Math.round(share * 100)} % uploaded` : 'Processing …'}
          </p>
        </>
      )}
    </li>
  );
}
