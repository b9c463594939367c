import type { Metadata } from 'next';
import { headers } from 'next/headers';
import type { ReactNode } from 'react';
import './globals.css';

export const metadata: Metadata = { title: 'Warpbeam', description: 'Driving values for mechanical design' };

/**
 * Sets the theme before the first paint, so that nothing flashes; tells packages that write style elements the nonce for them; and
 * keeps Zod from making code from texts, which the policy of the page forbids.
 */
const start = (nonce: string): string =>
  `window.__webpack_nonce__=${JSON.stringify(nonce)};window.__zod_globalConfig={jitless:true};try{var t=localStorage.getItem('warpbeam-theme');if(t==='night'||(!t&&matchMedia('(prefers-color-scheme: dark)').matches))document.documentElement.dataset.theme='night'}catch(e){}`;

export default async function RootLayout({ children }: { children: ReactNode }) {
  const nonce = (await headers()).get('x-nonce') ?? '';
  return (
    <html lang="en" suppressHydrationWarning>
      <head>
        <script nonce={nonce} suppressHydrationWarning dangerouslySetInnerHTML={{ __html: start(nonce) }} />
      </head>
      <body>{children}</body>
    </html>
  );
}
