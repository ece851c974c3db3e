import type { MetadataRoute } from 'next';

/** What a device is told when the application is installed on it. */
export default function manifest(): MetadataRoute.Manifest {
  return {
    name: 'Outer Cairn',
    short_name: 'Outer Cairn',
    description: 'Sensors, loggers and handheld references, and which logged values can be trusted.',
    start_url: '/',
    scope: '/',
    display: 'standalone',
    background_color: '#fbfaf6',
    theme_color: '#2e241c',
    icons: [
      { src: '/icon-192.png', sizes: '192x192', type: 'image/png' },
      { src: '/icon-512.png', sizes: '512x512', type: 'image/png' },
      { src: '/icon-masked-512.png', sizes: '512x512', type: 'image/png', purpose: 'maskable' },
    ],
  };
}
