import { dev } from '$app/environment';
import { error } from '@sveltejs/kit';
import { ownHosts } from './limits.ts';

const hosts = ownHosts();

/** Refuses requests under a name that is not this server's: a page elsewhere may have its own name point here. */
export function refuseForeignHost({ headers }: Request): void {
  const host = headers.get('host')?.toLowerCase() ?? '';
  // the development server has a port of its own
  if (!dev && !hosts.has(host)) error(421, `This server does not answer for "${host.slice(0, 100)}". Set ULVRIN_HOSTS to allow it.`);
}

/** Refuses requests that other sites' pages make; programs, which send no such headers, are let through. */
export function refuseOtherSites({ headers }: Request): void {
  const origin = headers.get('origin');
  const site = headers.get('sec-fetch-site');
  const foreign = origin !== null && !isOwn(origin);
  if (foreign || (site !== null && site !== 'same-origin')) error(403, 'Only pages of this server may ask for this.');
}

function isOwn(origin: string): boolean {
  try {
    return dev || hosts.has(new URL(origin).host);
  } catch {
    return false;
  }
}
