import { Pause, Play } from 'lucide-react';
import { useState } from 'react';
import { MOST_AT_ONCE, type QueueView } from '../../contract/queue.ts';
import { isWithin, minuteOfDay, minutesOf } from '../../core/queue/openHours.ts';
import { useQueueWork } from '../hooks/batchQueries.ts';
import { useActKey } from '../hooks/useWorkKey.ts';
import { Button } from '../kit/Button.tsx';
import { Choices } from '../order/Choices.tsx';
import { Token } from '../order/Token.tsx';

const COUNTS = ['1', '2', '3', '4', '6', String(MOST_AT_ONCE)];
const WORDS: Readonly<Record<string, string>> = { 1: 'one at a time' };

/** How the queue goes, as a sentence whose values open in place, and the key that stops all of it. */
export function QueueControls({ queue }: { readonly queue: QueueView }) {
  const { settings } = useQueueWork();
  const { paused, atOnce, hours, whenIdle, open } = queue;
  const toggle = () => settings.mutate({ paused: !paused });
  useActKey('p', toggle);
  return (
    <div className="mb-4 flex flex-wrap items-center gap-x-4 gap-y-2" data-testid="queue-controls">
      <Button look={paused ? 'main' : 'plain'} hotkey="P" onClick={toggle}>
        {paused ? <Play aria-hidden="true" size={16} /> : <Pause aria-hidden="true" size={16} />}
        {paused ? 'Go on' : 'Pause everything'}
      </Button>
      <p>
        Renditions are made{' '}
        <Token label="At once" text={WORDS[atOnce] ?? `${atOnce} at a time`}>
          {(close) => (
            <>
              <Choices
                label="At once"
                value={String(atOnce)}
                choices={COUNTS.map((value) => ({ value, label: WORDS[value] ?? `${value} at a time` }))}
                onChange={(value) => {
                  settings.mutate({ atOnce: Number(value) });
                  close();
                }}
              />
              <p className="text-quiet mt-2 text-sm">
                One encoder uses every core on large frames. Several side by side help with small frames and sound.
              </p>
            </>
          )}
        </Token>
        ,{' '}
        <Token label="When" text={hours ? `from ${hours.from} until ${hours.to}` : 'at any hour'}>
          {(close) => (
            <Hours
              hours={hours}
              onTake={(next) => {
                settings.mutate({ hours: next });
                close();
              }}
            />
          )}
        </Token>
        ,{' '}
        <Token label="Beside other work" text={whenIdle ? 'only on an idle machine' : 'whatever else it does'}>
          {(close) => (
            <>
              <Choices
                label="Beside other work"
                value={whenIdle ? 'idle' : 'always'}
                choices={[
                  { value: 'always', label: 'whatever else it does' },
                  { value: 'idle', label: 'only on an idle machine' },
                ]}
                onChange={(value) => {
                  settings.mutate({ whenIdle: value === 'idle' });
                  close();
                }}
              />
              <p className="text-quiet mt-2 text-sm">
                Idle is a machine that others left alone for a minute. When they come back, what runs stands still where
                it is.
              </p>
            </>
          )}
        </Token>
        . {!open && <span className="text-ember">{closedBecause(queue)}</span>}
      </p>
    </div>
  );
}

function closedBecause({ paused, hours, whenIdle }: QueueView): string {
  if (paused) return 'Everything stands still.';
  if (hours && !isWithin(hours, minuteOfDay(new Date()))) {
    return `It is closed now, and opens at ${hours.from}.`;
  }
  return whenIdle ? 'It waits until the machine has been left alone for a minute.' : '';
}

interface HoursProps {
  readonly hours: QueueView['hours'];
  readonly onTake: (hours: QueueView['hours']) => void;
}

/** From when until when; over midnight where the end lies before the beginning. */
function Hours({ hours, onTake }: HoursProps) {
  const [from, setFrom] = useState(hours?.from ?? '23:00');
  const [to, setTo] = useState(hours?.to ?? '07:00');
  const isTime = minutesOf(from) !== null && minutesOf(to) !== null;
  const field = 'figure border-rule bg-paper w-20 rounded border px-2 py-1';
  return (
    <form
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (isTime) onTake({ from, to });
      }}
    >
      <label className="flex items-center gap-2">
        From
        <input className={field} value={from} onChange={(event) => setFrom(event.target.value)} />
      </label>
      <label className="flex items-center gap-2">
        Until
        <input className={field} value={to} onChange={(event) => setTo(event.target.value)} />
      </label>
      {!isTime && <p className="text-wrong text-sm">Type times such as 23:00.</p>}
      <p className="text-quiet text-sm">
        Outside these hours what runs stands still where it is, and goes on when they come.
      </p>
      <div className="flex gap-2">
        <Button look="main" type="submit" disabled={!isTime}>
          Keep to these
        </Button>
        <Button onClick={() => onTake(null)}>At any hour</Button>
      </div>
    </form>
  );
}
