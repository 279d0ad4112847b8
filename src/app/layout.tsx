import type { Metadata } from 'next';
import localFont from 'next/font/local';
import { Toaster } from 'sonner';
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
        <Toaster
          position="top-center"
          offset={{ top: 4 }}
          mobileOffset={{ top: 4 }}
          visibleToasts={2}
          gap={4}
          toastOptions={{
            unstyled: true,
            classNames: {
              toast:
                'flex w-[420px] max-w-[92vw] items-baseline gap-3 rounded-paper border border-ink bg-ink px-3 py-2 font-sans text-small leading-tight text-sheet',
              actionButton: 'ml-auto shrink-0 min-h-6 text-sheet underline underline-offset-2',
              description: 'text-sheet/80',
            },
          }}
        />
      </body>
    </html>
  );
}
