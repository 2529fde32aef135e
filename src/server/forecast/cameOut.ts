import type { CameOut } from '../../core/forecast/sizeRecord.ts';
import { isVideoCodec } from '../../core/video/codecs.ts';
import * as statements from '../../store/statements/renditions.ts';
import type { Context } from '../context.ts';

interface CameOutRow extends Record<string, unknown> {
  readonly codec: string;
  readonly bytes: number;
  readonly sounded: number;
  /** Sound and container, as they were foreseen. */
  readonly rest: number;
}

/** What finished renditions of a programme came to, against what their soundings had foreseen; the newest first. */
export async function viewCameOut({ database }: Context, programmeId: string): Promise<CameOut[]> {
  const rows = await database.query<CameOutRow>(statements.CAME_OUT, [programmeId]);
  return rows.flatMap(({ codec, bytes, sounded, rest }) =>
    isVideoCodec(codec) && sounded > 0 && bytes > rest ? [{ codec, ratio: (bytes - rest) / sounded }] : [],
  );
}
