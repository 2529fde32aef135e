/** A group of pictures in a file: from one keyframe to the next, in the order they are stored. */
export interface PictureGroup {
  /** When its keyframe is shown. */
  readonly startSeconds: number;
  /** Between the last packet of the group and the first of the next, on the clock of decoding; null for the last. */
  readonly leaveSeconds: number | null;
  readonly frames: number;
  readonly bytes: number;
}

/** A file's groups. */
export interface GroupListing {
  /** A digest of what the decoder must be told beforehand: groups of two files can be joined only where it is the same. */
  readonly settings: string;
  readonly groups: readonly PictureGroup[];
}

/**
 * Groups the packets of a picture by keyframe, from the engine's report of one stream in lines such as
 * `packet|pts_time=0.000000|dts_time=-0.080000|size=4711|flags=K_` and `stream|extradata_hash=MD5:…`.
 */
export function createGroupReader(): { readonly read: (line: string) => void; readonly finish: () => GroupListing } {
  const groups: { startSeconds: number; leaveSeconds: number | null; frames: number; bytes: number }[] = [];
  let settings = '';
  let decodedBefore = NaN;
  const take = (packet: ReadonlyMap<string, string>) => {
    const decoded = Number(packet.get('dts_time'));
    if (packet.get('flags')?.includes('K')) {
      const last = groups.at(-1);
      if (last) last.leaveSeconds = (decodedBefore + decoded) / 2;
      groups.push({ startSeconds: Number(packet.get('pts_time')), leaveSeconds: null, frames: 0, bytes: 0 });
    }
    const group = groups.at(-1);
    if (group) {
      group.frames += 1;
      group.bytes += Number(packet.get('size'));
    }
    decodedBefore = decoded;
  };
  return {
    read: (line) => {
      const [section, ...fields] = line.split('|');
      const entries = new Map(fields.map((field) => field.split('=', 2) as [string, string]));
      if (section === 'packet') take(entries);
      else if (section === 'stream') settings = entries.get('extradata_hash') ?? '';
    },
    finish: () => ({ settings, groups }),
  };
}

/** Whether any group of one file can stand for the same one of the other. */
export function areAlike(one: GroupListing, other: GroupListing): boolean {
  const placesOf = ({ groups }: GroupListing) =>
    groups.map((group) => `${group.startSeconds}/${group.leaveSeconds}/${group.frames}`).join(' ');
  return one.settings === other.settings && placesOf(one) === placesOf(other);
}
