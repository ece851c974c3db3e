import sharp from 'sharp';
import { leadHex } from '@/core/wiring/leadColour';

/** Leads as they lie on a row of terminals: the lead's colour and the label under it; an empty colour is a free one. */
export interface DrawnTerminal {
  readonly label: string;
  readonly lead: string;
}

/** A picture of a row of terminals, drawn: base64 of a JPEG. */
export async function drawTerminals(row: readonly DrawnTerminal[], wet = false): Promise<string> {
  const [width, height, pitch] = [960, 640, 960 / (row.length + 1)];
  const screws = row.map(({ label, lead }, i) => {
    const x = pitch * (i + 1);
    return `<rect x="${x - pitch * 0.4}" y="330" width="${pitch * 0.8}" height="170" rx="6" fill="#3f6b4f"/>
      <circle cx="${x}" cy="392" r="${pitch * 0.2}" fill="#b9b9b4" stroke="#55554f" stroke-width="4"/>
      <path d="M${x - pitch * 0.14} ${392 - pitch * 0.06} L${x + pitch * 0.14} ${392 + pitch * 0.06}" stroke="#55554f" stroke-width="6"/>
      <text x="${x}" y="482" font-family="sans-serif" font-size="30" text-anchor="middle" fill="#f4efe6">${label}</text>
      ${
        lead &&
        `<path d="M${480 + (x - 480) * 0.35} 0 C ${480 + (x - 480) * 0.35} 160, ${x} 170, ${x} 352" stroke="#22221f" stroke-width="26" fill="none"/>
         <path d="M${480 + (x - 480) * 0.35} 0 C ${480 + (x - 480) * 0.35} 160, ${x} 170, ${x} 352" stroke="${leadHex(lead)}" stroke-width="20" fill="none"/>`
      }`;
  });
  const drops = wet
    ? [130, 300, 520, 700, 850]
        .map(
          (x, i) =>
            `<ellipse cx="${x}" cy="${180 + (i % 3) * 40}" rx="9" ry="13" fill="#9fc6d8" opacity="0.85"/>`,
        )
        .join('')
    : '';
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}">
    <rect width="100%" height="100%" fill="#8d867a"/><rect x="20" y="300" width="920" height="240" fill="#5c574e"/>
    ${screws.join('')}${drops}</svg>`;
  return (await sharp(Buffer.from(svg)).jpeg({ quality: 80 }).toBuffer()).toString('base64');
}
