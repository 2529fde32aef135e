import type { Metadata } from 'next';
import type { ReactNode } from 'react';
import { AppShell } from '../ui/shell/AppShell.tsx';
import { Providers } from '../ui/shell/Providers.tsx';
import './globals.css';

export const metadata: Metadata = {
  title: { default: 'Linstock', template: '%s · Linstock' },
  description: 'Compress finished programmes for the web, to a size that is met and never overshot.',
};

export default function Layout({ children }: { children: ReactNode }) {
  return (
    <html lang="en" suppressHydrationWarning>
      <body>
        <Providers>
          <AppShell>{children}</AppShell>
        </Providers>
      </body>
    </html>
  );
}
