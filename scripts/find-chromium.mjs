/** Debian's Chromium: the one without windows, which setup.sh installs, or the one with them; CHROMIUM says another. */
import { existsSync } from 'node:fs';

const PLACES = ['/usr/bin/chromium-headless-shell', '/usr/bin/chromium'];

export const CHROMIUM = process.env.CHROMIUM ?? PLACES.find((place) => existsSync(place)) ?? '/usr/bin/chromium';
