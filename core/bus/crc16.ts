/**
 * CRC-16/MODBUS over bytes: reflected polynomial 0xA001, start 0xFFFF, no final inversion.
 * Returns an unsigned 16-bit number; on the wire the low byte goes first.
 * Source: MODBUS over Serial Line, Specification and Implementation Guide V1.02, 6.2.2.
 *
 * @param bytes any number of them, 0–255 each; none gives the start value
 * @example crc16Modbus(Uint8Array.of(0x02, 0x07)) // 4673
 */
export function crc16Modbus(bytes: Uint8Array): number {
  let crc = 0xffff;
  for (const byte of bytes) {
    crc ^= byte;
    for (let bit = 0; bit < 8; bit++) crc = crc & 1 ? (crc >>> 1) ^ 0xa001 : crc >>> 1;
  }
  return crc;
}

/**
 * CRC-16/XMODEM over bytes: polynomial 0x1021, not reflected, start 0, no final inversion.
 * Returns an unsigned 16-bit number; on the wire the high byte goes first.
 * Source: C. Forsberg, XMODEM/YMODEM Protocol Reference (1988), chapter 7; check value of the public
 * CRC catalogues: 0x31C3 for "123456789".
 *
 * @param bytes any number of them, 0–255 each; none gives the start value
 * @example crc16Xmodem(Uint8Array.of(0x31, 0x32, 0x33)) // 38738
 */
export function crc16Xmodem(bytes: Uint8Array): number {
  let crc = 0;
  for (const byte of bytes) {
    crc ^= byte << 8;
    for (let bit = 0; bit < 8; bit++) crc = (crc & 0x8000 ? (crc << 1) ^ 0x1021 : crc << 1) & 0xffff;
  }
  return crc;
}
