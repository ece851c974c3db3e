/**
 * A place on the earth in words.
 *
 * @param decimals five are about a metre, three about a hundred
 */
export const placeText = (latitude: number, longitude: number, decimals: number): string =>
  `${Math.abs(latitude).toFixed(decimals)}° ${latitude < 0 ? 'S' : 'N'}, ${Math.abs(longitude).toFixed(decimals)}° ${longitude < 0 ? 'W' : 'E'}`;
