import { randomBytes } from 'node:crypto';

const OFF = ['accelerometer', 'camera', 'display-capture', 'geolocation', 'gyroscope', 'microphone', 'payment', 'usb'];

/** Headers that every answer has, for an origin. */
export function pageHeaders(origin: string): Record<string, string> {
  return {
    'x-content-type-options': 'nosniff',
    'referrer-policy': 'same-origin',
    'x-frame-options': 'DENY',
    'permissions-policy': OFF.map((feature) => `${feature}=()`).join(', '),
    'cross-origin-opener-policy': 'same-origin',
    'cross-origin-resource-policy': 'same-origin',
    ...(origin.startsWith('https:') ? { 'strict-transport-security': 'max-age=63072000; includeSubDomains' } : {}),
  };
}

/**
 * The Content-Security-Policy of a page, with a nonce of its own: scripts run only where our pages put them. Style attributes are React's own;
 * WebAssembly is the letters' shaper and the proof's kernel.
 */
export function withNonce(origin: string, nonce = randomBytes(16).toString('base64')): string {
  return [
    "default-src 'self'",
    `script-src 'nonce-${nonce}' 'strict-dynamic' 'wasm-unsafe-eval'`,
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "font-src 'self'",
    "connect-src 'self'",
    "worker-src 'self' blob:",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
    ...(origin.startsWith('https:') ? ['upgrade-insecure-requests'] : []),
  ].join('; ');
}
