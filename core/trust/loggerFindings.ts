import { formatAge } from '../quantity/format';
import { clockTolerance } from '../series/clock';
import { ago, type Finding } from './finding';
import { aboutChannel, finding, type About } from './newFinding';
import type { ChannelFacts, LoggerFacts, StationFacts } from './stationFacts';

const day = 86_400_000;
/** A contact older than this leaves the link unproved, days. Our own choice. */
export const contactEvery = 2;
/** So many days before memory or battery may end somebody has to set out. Our own choice. */
export const readOutAhead = 3;

/** What is the matter with the logger bears on every channel it feeds. */
export function loggerFindings(
  { logger, channels }: StationFacts,
  logged: readonly ChannelFacts[],
): Finding[] {
  if (!logger) return [];
  const { lastContact, lastContactFault, lastCollectedAt, clock } = logger;
  const about: About = {
    subject: { kind: 'logger', id: logger.id },
    who: 'The logger',
    channels: logged.map((c) => c.id),
  };
  const found: Finding[] = [];
  for (const w of logger.openWrites) {
    const channel = channels.find((c) => c.id === w.channelId);
    found.push(
      finding(
        channel ? aboutChannel(channel) : about,
        'action-unknown',
        'displaced',
        'a write to the logger has an unknown outcome',
        'Read the logger back to settle it',
        { from: w.unknownFrom },
      ),
    );
  }
  if (lastContactFault)
    found.push(
      finding(
        about,
        'link-failed',
        'displaced',
        `last contact failed: ${lastContactFault}`,
        'Power and network at the logger first',
        { bring: ['multimeter', 'network lead'] },
      ),
    );
  if (lastContact === null)
    found.push(
      finding(
        about,
        'never-contacted',
        'missing',
        'never contacted',
        'Collect its record, or talk to a sensor',
      ),
    );
  else if (!lastContactFault) {
    // One that is left alone is not heard of until it has to be read out.
    const old = Math.max(lastContact + contactEvery * day, logger.launch?.endsAt ?? -Infinity);
    found.push(
      finding(
        about,
        'contact-old',
        'displaced',
        `last contact ${ago(lastContact)} ago`,
        'Collect the record',
        {
          from: old,
        },
      ),
    );
    // Talked to, but nobody took its record: until the link itself is unproved again.
    if (lastCollectedAt !== null && lastCollectedAt < lastContact)
      found.push(
        finding(
          about,
          'not-collected',
          'displaced',
          `last collected ${ago(lastCollectedAt)} ago`,
          'Collect the record',
          {
            from: Math.max(lastCollectedAt + contactEvery * day, logger.launch?.endsAt ?? -Infinity),
            until: old,
          },
        ),
      );
  }
  if (logger.launch) {
    const { endsAt, what } = logger.launch;
    found.push(
      finding(
        about,
        'launch-ends',
        'displaced',
        `its ${what} may end from ${new Date(endsAt).toISOString().slice(0, 10)} on`,
        'Read it out and launch it anew',
        { from: endsAt - readOutAhead * day, bring: ['a way to read the logger', 'a new battery for it'] },
      ),
    );
  }
  if (logger.factoryLogIn)
    found.push(
      finding(
        { ...about, channels: [] },
        'factory-log-in',
        'displaced',
        'its log-in is still the factory’s',
        'Change it at the logger, then say so under Connect',
      ),
    );
  for (const says of logger.badFirmware)
    found.push(
      finding(
        { ...about, channels: [] },
        'firmware-bad',
        'displaced',
        `its firmware is known to be bad: ${says}`,
        'Ask its maker for another, after its record is collected',
      ),
    );
  if (clock && Math.abs(clock.difference) - clock.uncertainty > clockTolerance)
    found.push(
      finding(
        about,
        'clock-off',
        'displaced',
        `clock ${formatAge(clock.difference)} ${clock.difference > 0 ? 'fast' : 'slow'}`,
        'Set it, and correct the drift in the stamps',
        { bring: ['watch set to UTC'] },
      ),
    );
  found.push(...heldFindings(about, logger));
  return found.filter((f) => f.from < f.until);
}

/** What it holds of itself, whether it keeps what it was told, and which external sensors it listens to. */
function heldFindings(about: About, { own, unstored, externals }: LoggerFacts): Finding[] {
  const itself = { ...about, channels: [] };
  const found: Finding[] = [];
  if (own.readBackDiffers)
    found.push(
      finding(
        itself,
        'own-differs',
        'displaced',
        'it holds another station ID or name than was written',
        'Compare and write again',
      ),
    );
  else if (own.stagedAt !== null)
    found.push(
      finding(
        itself,
        'own-staged',
        'displaced',
        `its station ID and name staged ${ago(own.stagedAt)} ago, not written`,
        'Write them to the logger',
      ),
    );
  if (unstored)
    found.push(
      finding(
        itself,
        'not-stored',
        'displaced',
        'what was written to it is gone at power-off',
        'Have it store what it holds, under Connect',
      ),
    );
  for (const { terminal, activated, sensor, channelIds, someOn } of externals) {
    if (sensor !== null && !activated)
      found.push(
        finding(
          { ...about, channels: channelIds },
          'not-activated',
          'displaced',
          `${sensor} hangs on ${terminal}, and it was not told to listen there`,
          `Activate ${terminal} under Connect, and write it`,
        ),
      );
    if (activated && !someOn)
      found.push(
        finding(
          itself,
          'activated-for-nothing',
          'displaced',
          `${terminal} is activated, but no channel that it feeds is on`,
          'Switch its channel on, or stop listening there',
        ),
      );
  }
  return found;
}
