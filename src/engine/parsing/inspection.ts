import { createPacketTally, type ListedPacket, type PacketTally } from './packets.ts';
import { readReport, type ProbeReport } from './report.ts';

/** The list of packets, each beginning on a line of its own; what travels beside one may follow on further lines. */
const LIST_BEGINS = '    "packets": [';
const LIST_ENDS = /^ {4}\],?$/;
const PACKET_BEGINS = /^\s*(\{ "codec_type".*?),?(\s*\},?)?$/;

/**
 * Reads the engine's report on a file line by line, its packets first: hours of them are counted, never held.
 *
 * @param lost - Pictures that are not counted, as when packets are.
 */
export function createInspectionReader(lost?: ReadonlySet<number>): {
  readonly read: (line: string) => void;
  /** @throws SyntaxError when the report broke off. */
  readonly finish: () => { readonly report: ProbeReport; readonly tallies: Map<number, PacketTally> };
} {
  const packets = createPacketTally(lost);
  const rest: string[] = [];
  let isInList = false;
  return {
    read: (line) => {
      if (line === LIST_BEGINS) isInList = true;
      else if (!isInList) rest.push(line);
      else if (LIST_ENDS.test(line)) isInList = false;
      else {
        const packet = PACKET_BEGINS.exec(line)?.[1];
        if (packet) packets.add(JSON.parse(`${packet}}`) as ListedPacket);
      }
    },
    finish: () => {
      const report = readReport(rest.join('\n'));
      return { report, tallies: packets.tallies() };
    },
  };
}
