import { pictureRatio, type CameOut } from '../../core/forecast/sizeRecord.ts';
import { isVideoCodec } from '../../core/video/codecs.ts';
import * as statements from '../../store/statements/renditions.ts';
import type { Context } from '../context.ts';

interface CameOutRow extends Record<string, unknown> {
  readonly codec: string;
  readonly bytes: number;
  readonly sounded: number;
  /** As they were foreseen. */
  readonly audio: number;
  readonly container: number;
}

/** What finished renditions of a programme came to, against what their soundings had foreseen; the newest first. */
export async function viewCameOut({ database }: Context, programmeId: string): Promise<CameOut[]> {
  const rows = await database.query<CameOutRow>(statements.CAME_OUT, [programmeId]);
  return rows.flatMap(({ codec, ...file }) => {
    const ratio = pictureRatio(file);
    return isVideoCodec(codec) && ratio !== null ? [{ codec, ratio }] : [];
  });
}
