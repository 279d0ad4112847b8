import type { Metadata } from 'next';
import { notFound } from 'next/navigation';

export const metadata: Metadata = { title: 'Page not found' };

/** An address that no page has: said under the masthead, with a way on. */
export default function Nowhere() {
  notFound();
}
