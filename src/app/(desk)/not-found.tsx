import Link from 'next/link';

export default function NotFound() {
  return (
    <div className="px-8 py-10">
      <h1 className="font-display text-[24px] font-semibold mb-2">Not here</h1>
      <p className="text-muted">
        There is nothing at this address in your workspace. It may have been taken away.{' '}
        <Link href="/range" className="text-primary underline">
          Go to the range
        </Link>
      </p>
    </div>
  );
}
