'use client';

import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { ThemeProvider } from 'next-themes';
import { Tooltip } from 'radix-ui';
import { useState, type ReactNode } from 'react';
import { Toaster } from 'sonner';

/** Everything the pages rely on being around them. */
export function Providers({ nonce, children }: { readonly nonce: string; readonly children: ReactNode }) {
  // Events keep the cache true, so nothing is fetched again merely because a window gained focus.
  const [client] = useState(
    () =>
      new QueryClient({ defaultOptions: { queries: { refetchOnWindowFocus: false, retry: 1, staleTime: 30_000 } } }),
  );
  return (
    <ThemeProvider attribute="class" defaultTheme="system" enableSystem nonce={nonce} disableTransitionOnChange>
      <QueryClientProvider client={client}>
        <Tooltip.Provider delayDuration={400}>{children}</Tooltip.Provider>
        <Toaster
          position="bottom-right"
          offset={{ bottom: '4.25rem' }}
          mobileOffset={{ bottom: '4.25rem' }}
          toastOptions={{ className: 'font-sans' }}
        />
      </QueryClientProvider>
    </ThemeProvider>
  );
}
