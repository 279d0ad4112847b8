import type { Metadata } from 'next';
import { Settings } from '@/screens/Settings/Settings';
import { pageActor } from '@/server/http/page';

export const metadata: Metadata = { title: 'Settings' };

export default async function SettingsPage() {
  const { actor } = await pageActor();
  const { personName, email, workspaceName, country, currency } = actor;
  return <Settings person={{ name: personName, email }} workspace={{ name: workspaceName, country, currency }} />;
}
