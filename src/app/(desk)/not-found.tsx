import Link from 'next/link';

export default function NotFound() {
  return (
    <div className="px-8 py-10">
      <h1 className="font-display text-[24px] font-semibold mb-2">Page not found</h1>
      <p className="text-muted">
        There is nothing at this address in your workspace. It may have been deleted.{' '}
        <Link href="/range" className="text-primary underline">
          Go to the range
        </Link>
      </p>
    </div>
  );
}
