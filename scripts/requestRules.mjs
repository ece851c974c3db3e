// What a request must be like to reach the application; pure, so that it can be tested by itself.

/** The longest body of anything but a record file, bytes; the application itself takes a little less. */
/** Room for a photograph as it is sent; usual forms are bounded further in. */
const largestBody = 2 * 1024 * 1024;
const longestAddress = 4096;

/**
 * The client's address: the peer's own, or with `hops` proxies of ours in front the one the outermost of
 * them saw, counted from the right. What stands further left anybody may have written.
 */
export function believedAddress(forwarded, peer = 'unknown', hops = 0) {
  if (hops === 0 || !forwarded) return peer;
  const list = String(forwarded)
    .split(',')
    .map((a) => a.trim())
    .filter(Boolean);
  return list[list.length - hops] ?? list[0] ?? peer;
}

/** Why a request goes no further; null when it may. */
export function refuseRequest({ method, url, headers }) {
  if (url.length > longestAddress) return { status: 414, text: 'The address is too long.' };
  const [path, query = ''] = url.split('?');
  for (const part of [path, query])
    try {
      if (decodeURIComponent(part.replaceAll('+', ' ')).includes('\0'))
        return { status: 400, text: 'The address holds a zero character.' };
    } catch {
      return {
        status: 400,
        text: 'The address is not written properly: a % needs two hexadecimal digits of UTF-8.',
      };
    }
  const upload = method === 'PUT' && path.endsWith('/file');
  if (!upload && Number(headers['content-length'] ?? 0) > largestBody)
    return { status: 413, text: `A request may have ${largestBody / 1024} kB.` };
  return null;
}

/** How long a body may take to come, ms: a form half a minute, a picture by its length at 5 kB/s. */
export const timeFor = (headers) =>
  Math.max(30_000, Math.min(Number(headers['content-length'] ?? 0) || 0, largestBody) / 5);

/** Headers of every answer. */
export const securityHeaders = (origin) => ({
  'x-content-type-options': 'nosniff',
  'referrer-policy': 'same-origin',
  'permissions-policy':
    'camera=(self), geolocation=(self), microphone=(), payment=(), usb=(self), serial=(self)',
  'cross-origin-opener-policy': 'same-origin',
  ...(origin.startsWith('https:') && { 'strict-transport-security': 'max-age=31536000; includeSubDomains' }),
});
