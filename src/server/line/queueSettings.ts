import { queueSettingsSchema, type QueueSettings } from '../../contract/queue.ts';
import { parseWith } from '../../contract/strictObject.ts';
import type { Context } from '../context.ts';
import { readSetting, writeSetting } from '../settings.ts';

const SETTING = 'queue';

/** How the queue is to go. */
export async function readQueueSettings(context: Context): Promise<QueueSettings> {
  const parsed = parseWith(queueSettingsSchema, (await readSetting(context, SETTING)) ?? {});
  // What another version wrote must not stop the work.
  return parsed.ok ? parsed.value : { paused: false, atOnce: 1, hours: null, whenIdle: false };
}

/** Keeps how the queue is to go. */
export async function writeQueueSettings(
  context: Context,
  settings: { readonly [Key in keyof QueueSettings]: QueueSettings[Key] | undefined },
): Promise<void> {
  await writeSetting(context, SETTING, settings);
}
