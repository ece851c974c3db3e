import { largestPhotographBody } from '@/contract/photographs';
import { believedAddress, refuseRequest, securityHeaders, timeFor } from './requestRules.mjs';

describe('whose address is believed', () => {
  test.each<[string | undefined, number, string]>([
    ['6.6.6.6', 0, '10.0.0.9'],
    [undefined, 1, '10.0.0.9'],
    ['192.0.2.7', 1, '192.0.2.7'],
    // Whoever sends the header himself stands further left than what our own proxy wrote.
    ['6.6.6.6, 192.0.2.7', 1, '192.0.2.7'],
    ['6.6.6.6, 192.0.2.7, 10.0.0.2', 2, '192.0.2.7'],
    ['192.0.2.7', 3, '192.0.2.7'],
  ])('%s behind %d proxies is %s', (forwarded, hops, address) => {
    expect(believedAddress(forwarded, '10.0.0.9', hops)).toBe(address);
  });
});
test.each([
  ['/verify?text=a%20b', null],
  ['/verify?text=%E0%A4%A', 400],
  ['/%E0%A4%A', 400],
  ['/a%00b', 400],
  [`/${'x'.repeat(5000)}`, 414],
])('%s', (url, status) => {
  expect(refuseRequest({ method: 'GET', url, headers: {} })?.status ?? null).toBe(status);
});
test('a long body goes no further, unless it is a record file', () => {
  const headers = { 'content-length': '100000000' };
  expect(refuseRequest({ method: 'POST', url: '/api/v1/session', headers })?.status).toBe(413);
  expect(refuseRequest({ method: 'PUT', url: '/api/v1/stations/a/imports/b/file', headers })).toBeNull();
});
test('a photograph as it is sent comes through', () =>
  expect(
    refuseRequest({
      method: 'POST',
      url: '/api/v1/stations/x/photographs',
      headers: { 'content-length': String(largestPhotographBody) },
    }),
  ).toBeNull());
test('a form comes within half a minute, a picture may take its time over a thin line, nothing for ever', () => {
  const at = (length: string) => timeFor({ 'content-length': length }) / 1000;
  expect(at('2000')).toBe(30);
  expect(at('2000000')).toBe(400);
  expect(at('99999999999')).toBeLessThan(450);
  expect(at('x')).toBe(30);
  expect(timeFor({})).toBe(30_000);
});
test('only an https origin is promised to stay one', () => {
  expect(securityHeaders('https://cairn.example')).toHaveProperty('strict-transport-security');
  expect(securityHeaders('http://127.0.0.1:3000')).not.toHaveProperty('strict-transport-security');
  expect(securityHeaders('http://127.0.0.1:3000')['x-content-type-options']).toBe('nosniff');
});
