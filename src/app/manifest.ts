import type { MetadataRoute } from 'next';

/** So that the application, or one drop-on place of it, can have a window of its own. */
export default function manifest(): MetadataRoute.Manifest {
  return {
    name: 'Linstock',
    short_name: 'Linstock',
    start_url: '/',
    scope: '/',
    display: 'standalone',
    background_color: '#f7f4ec',
    theme_color: '#b3400f',
    icons: [{ src: '/icon.svg', sizes: 'any', type: 'image/svg+xml' }],
  };
}
