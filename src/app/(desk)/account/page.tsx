import type { Metadata } from 'next';
import { Account } from '@/screens/Account/Account';

export const metadata: Metadata = { title: 'Personal tokens' };

export default function AccountPage() {
  return <Account />;
}
