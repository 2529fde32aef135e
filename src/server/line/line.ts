import { MOST_ROWS } from '../../contract/list.ts';
import type { QueueChange, QueueView } from '../../contract/queue.ts';
import { IN_USE, lookForIdleness } from '../../core/queue/idle.ts';
import { isWithin, minuteOfDay } from '../../core/queue/openHours.ts';
import { createHold, type HeldWork, type Hold } from '../../engine/process/hold.ts';
import * as jobs from '../../store/statements/jobs.ts';
import type { Context } from '../context.ts';
import { givenOf } from '../givenOf.ts';
import { listLine } from '../renditions/renditions.ts';
import { viewWorkLeft } from '../forecast/workLeft.ts';
import { createOtherLoad } from './otherLoad.ts';
import { readQueueSettings, writeQueueSettings } from './queueSettings.ts';

/** Hours begin and end, and other processes change things, without a word to this one. */
const LOOK_EVERY_MS = 5000;

/** How the line of renditions goes: open or not, how many at once, and which of them stand still. */
export interface Line {
  /** Renditions that may go side by side now; 0 while it is closed. */
  readonly room: () => number;
  /** @param most - Rows of it; as many as a list has where it is not given. */
  view(most?: number): Promise<QueueView>;
  change(change: QueueChange): Promise<QueueView>;
  /** Freezes a rendition where it is, or keeps a waiting one from being begun; or lets it go on. */
  setHeld(id: string, isHeld: boolean): Promise<void>;
  /**
   * A rendition is begun here.
   *
   * @returns What its children stand still by; it is given back when it has ended.
   */
  begin(id: string): { readonly hold: Hold; readonly end: () => void };
  stop(): void;
}

/** @param onRoom - Called when there may be more room than before. */
export async function openLine(context: Context, onRoom: () => void): Promise<Line> {
  const { database, events, logger } = context;
  const underway = new Map<string, HeldWork>();
  let settings = await readQueueSettings(context);
  let held: ReadonlySet<string> = new Set();

  const otherLoad = createOtherLoad();
  let idleness = IN_USE;

  const isOpen = () =>
    !settings.paused && isWithin(settings.hours, minuteOfDay(context.now())) && (!settings.whenIdle || idleness.isIdle);
  // What stands still by itself keeps nobody waiting; let go on, it runs beside whoever took its place.
  const still = () => [...underway.keys()].filter((id) => held.has(id)).length;
  const room = () => (isOpen() ? settings.atOnce + still() : 0);
  let roomBefore = room();
  /** Whoever is to stand still does, and whoever is not goes on. */
  const apply = async () => {
    settings = await readQueueSettings(context);
    const rows = underway.size === 0 ? [] : await database.query<{ subject: string }>(jobs.HELD_JOBS, ['rendition']);
    held = new Set(rows.map(({ subject }) => subject));
    for (const [id, hold] of underway) hold.set(!isOpen() || held.has(id));
    if (room() > roomBefore) onRoom();
    roomBefore = room();
  };
  const applySoon = () => void apply().catch((error: unknown) => logger.warn({ err: error }, 'the queue was not read'));
  const look = async () => {
    if (settings.whenIdle) {
      const before = isOpen();
      idleness = lookForIdleness(idleness, await otherLoad(), LOOK_EVERY_MS / 1000);
      if (isOpen() !== before) events.publish({ type: 'queue' });
    }
    await apply();
  };
  const timer = setInterval(
    () => void look().catch((error: unknown) => logger.warn({ err: error }, 'the machine was not looked at')),
    LOOK_EVERY_MS,
  );
  const unsubscribe = events.subscribe((event) => event.type === 'queue' && applySoon());
  const view = async (most = MOST_ROWS): Promise<QueueView> => ({
    ...settings,
    open: isOpen(),
    left: await viewWorkLeft(context, null),
    ...(await listLine(context, most)),
  });
  return {
    room,
    view,
    change: async (change) => {
      await writeQueueSettings(context, { ...settings, ...givenOf(change) });
      await apply();
      events.publish({ type: 'queue' });
      return view();
    },
    setHeld: async (id, isHeld) => {
      await database.query(jobs.SET_HELD, ['rendition', id, isHeld]);
      await apply();
      // One that waited may be begun now.
      if (!isHeld) onRoom();
      events.publish({ type: 'queue' });
    },
    begin: (id) => {
      const hold = createHold();
      underway.set(id, hold);
      applySoon();
      return { hold, end: () => void underway.delete(id) };
    },
    stop: () => {
      clearInterval(timer);
      unsubscribe();
    },
  };
}
