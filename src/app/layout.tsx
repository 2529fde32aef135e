import type { Metadata } from 'next';
import { headers } from 'next/headers';
import type { ReactNode } from 'react';
import { NONCE_HEADER } from '../server/guard/nonce.ts';
import { AppShell } from '../ui/shell/AppShell.tsx';
import { Providers } from '../ui/shell/Providers.tsx';
import './globals.css';

export const metadata: Metadata = {
  title: { default: 'Linstock', template: '%s · Linstock' },
  description: 'Compress finished programmes for the web, to a size that is met and never overshot.',
};

/** Pages are made for each visit: their scripts carry the nonce that the content policy of the same answer allows. */
export default async function Layout({ children }: { children: ReactNode }) {
  const nonce = (await headers()).get(NONCE_HEADER) ?? '';
  return (
    <html lang="en" suppressHydrationWarning>
      <body>
        <Providers nonce={nonce}>
          <AppShell>{children}</AppShell>
        </Providers>
      </body>
    </html>
  );
}
