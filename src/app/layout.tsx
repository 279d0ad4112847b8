import type { Metadata } from 'next';
import localFont from 'next/font/local';
import { Toasts } from '@/ui/toast';
import './globals.css';

const besley = localFont({
  src: '../../node_modules/@fontsource-variable/besley/files/besley-latin-wght-normal.woff2',
  variable: '--font-besley',
  weight: '400 900',
});
const instrument = localFont({
  src: '../../node_modules/@fontsource-variable/instrument-sans/files/instrument-sans-latin-wght-normal.woff2',
  variable: '--font-instrument',
  weight: '400 700',
});
const plex = localFont({
  src: '../../node_modules/@fontsource/ibm-plex-mono/files/ibm-plex-mono-latin-400-normal.woff2',
  variable: '--font-plex',
  weight: '400',
});

export const metadata: Metadata = {
  title: { default: 'Typica', template: '%s · Typica' },
  description: 'Artwork on blank goods, priced to the cent, kept in step across shops.',
};

export default function RootLayout({ children }: { children: React.ReactNode }) {
  return (
    <html lang="en" className={`${besley.variable} ${instrument.variable} ${plex.variable}`}>
      <body>
        {children}
        <Toasts />
      </body>
    </html>
  );
}
