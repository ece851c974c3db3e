/** What went wrong in one exchange with a device. */
export type ExchangeFault =
  | 'no-connection'
  | 'time-out'
  | 'half-frame'
  | 'crc'
  | 'garbage'
  | 'foreign'
  | 'exception'
  | 'lease'
  | 'refused-address';

export interface FaultAdvice {
  readonly title: string;
  /** What to look at, most likely first. */
  readonly lookAt: readonly string[];
}

/**
 * What to look at first when a device on a half-duplex serial line does not answer as it should:
 * wiring, then serial parameters, then ID. Common practice, no source.
 *
 * @param fault what came back, as the line's listener names it
 */
export function faultAdvice(fault: ExchangeFault): FaultAdvice {
  switch (fault) {
    case 'no-connection':
      return {
        title: 'The gateway could not be reached',
        lookAt: [
          'Power and network of the logger: link light, cable, address.',
          'The gateway port number set on the logger.',
          'The device allow-list of this installation.',
        ],
      };
    case 'time-out':
      return {
        title: 'No answer',
        lookAt: [
          'Wiring: supply at the sensor, then the pair (+ to +, − to −), then the signal common.',
          'Serial parameters: speed, parity and stop bits equal at both ends.',
          'ID: does the sensor really have this one? Another protocol hears nothing either.',
        ],
      };
    case 'half-frame':
      return {
        title: 'The answer broke off',
        lookAt: [
          'Wiring: a loose lead, or supply sagging while the sensor transmits.',
          'Serial parameters: a stop bit too many or too few cuts frames.',
          'ID: two sensors with one ID talking over each other.',
        ],
      };
    case 'crc':
      return {
        title: 'Checksum does not fit',
        lookAt: [
          'Wiring: swapped or unterminated pair, shield open, cable beside a motor or inverter.',
          'Serial parameters: parity or speed slightly off lets bytes through but wrong.',
          'ID: two sensors with one ID answering at once.',
        ],
      };
    case 'garbage':
      return {
        title: 'Bytes that are no frame',
        lookAt: [
          'Wiring: a swapped pair reads as noise.',
          'Serial parameters: a wrong speed reads as noise too.',
          'ID: something else on the line speaks another protocol.',
        ],
      };
    case 'foreign':
      return {
        title: 'An answer to another question',
        lookAt: [
          'A late reply to the question before: wait and ask again; lengthen the time-out if it recurs.',
          'Another master on the same line.',
          'ID: two sensors with one ID.',
        ],
      };
    case 'exception':
      return {
        title: 'The sensor understood and refused',
        lookAt: [
          'Wiring and serial parameters are good: the sensor answered.',
          'The model: register addresses belong to another model or firmware.',
          'The sensor itself: busy, or reporting a fault of its own.',
        ],
      };
    case 'lease':
      return {
        title: 'The line is busy',
        lookAt: ['Someone else is talking on this port. Wait a few seconds and ask again.'],
      };
    case 'refused-address':
      return {
        title: 'Address not allowed',
        lookAt: ['The administrator has to add this host and port to the device allow-list.'],
      };
  }
}
