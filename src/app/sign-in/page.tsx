import type { Metadata } from 'next';
import { SignIn } from '@/screens/SignIn/SignIn';
import { loadSignIn } from '@/screens/SignIn/load';
import { context } from '@/server/context';
import { atOwnAddress } from '@/server/http/page';

export const dynamic = 'force-dynamic';
export const metadata: Metadata = { title: 'Sign in' };

export default async function SignInPage({ searchParams }: { searchParams: Promise<{ back?: string }> }) {
  await atOwnAddress(context());
  const { back } = await searchParams;
  return <SignIn {...await loadSignIn(context(), back)} />;
}
