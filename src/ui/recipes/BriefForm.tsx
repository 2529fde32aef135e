import { Plus } from 'lucide-react';
import { useState } from 'react';
import { OPEN_BRIEF, type Brief } from '../../core/brief/brief.ts';
import { describeBrief } from '../../core/brief/describeBrief.ts';
import { CONTAINER } from '../../core/container/containers.ts';
import { CONTAINERS } from '../../core/container/names.ts';
import { SOUND, SOUND_CODECS } from '../../core/sound/codecs.ts';
import { VIDEO, VIDEO_CODECS } from '../../core/video/codecs.ts';
import { useShelfWork } from '../hooks/shelfQueries.ts';
import { Button } from '../kit/Button.tsx';
import { parseSize } from '../kit/format.ts';
import { Sheet } from '../kit/Sheet.tsx';

/** What is typed as a number: its key, how it is called, and its unit. */
const NUMBERS = [
  ['maxTotalKbps', 'Rate of all, at most', 'kb/s'],
  ['maxPictureKbps', 'Rate of the picture, at most', 'kb/s'],
  ['maxWidth', 'Width, at most', 'pixels'],
  ['maxHeight', 'Height, at most', 'pixels'],
  ['maxKeyframeSeconds', 'Keyframes apart, at most', 's'],
  ['maxSoundKbps', 'Rate of the sound, at most', 'kb/s'],
  ['maxChannels', 'Channels, at most', ''],
  ['maxSeconds', 'Length, at most', 's'],
] as const satisfies readonly (readonly [keyof Brief, string, string])[];

/** Writes down what a receiver asks for; what is left empty it does not ask for. */
export function BriefForm() {
  const [isOpen, setOpen] = useState(false);
  const { put } = useShelfWork('briefs');
  return (
    <>
      <Button onClick={() => setOpen(true)}>
        <Plus aria-hidden="true" size={16} /> New brief
      </Button>
      <Sheet
        isOpen={isOpen}
        onOpenChange={setOpen}
        title="A new brief"
        description="What a receiver asks for; what is left empty it does not ask for."
      >
        <Asked
          onKeep={(brief) => {
            put.mutate({ name: brief.name, notes: '', tags: [], starred: false, brief });
            setOpen(false);
          }}
        />
      </Sheet>
    </>
  );
}

const FIELD = 'figure border-rule bg-paper w-28 rounded border px-2 py-1 text-right';

function Asked({ onKeep }: { readonly onKeep: (brief: Brief) => void }) {
  const [brief, setBrief] = useState<Brief>({ ...OPEN_BRIEF, name: '' });
  const [size, setSize] = useState('');
  const bytes = size.trim() ? parseSize(size) : null;
  const isSize = size.trim() === '' || bytes !== null;
  const isReady = brief.name.trim() !== '' && isSize;
  const asked: Brief = { ...brief, maxBytes: bytes, unit: /mib/i.test(size) ? 'MiB' : 'MB' };
  const set = (part: Partial<Brief>) => setBrief({ ...brief, ...part });
  return (
    <form
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (isReady) onKeep(asked);
      }}
    >
      <label className="flex items-center gap-2">
        <span className="w-56">Name</span>
        <input
          className="border-rule bg-paper grow rounded border px-2 py-1"
          value={brief.name}
          onChange={(event) => set({ name: event.target.value })}
        />
      </label>
      <label className="flex items-center gap-2">
        <span className="w-56">Loudness</span>
        <input
          className={FIELD}
          type="number"
          step={0.1}
          min={-60}
          max={0}
          placeholder="-14"
          value={brief.loudness?.lufs ?? ''}
          onChange={(event) => {
            const lufs = event.target.valueAsNumber;
            set({ loudness: Number.isNaN(lufs) ? null : { lufs, within: 1, maxTruePeakDbtp: -1 } });
          }}
        />
        <span className="text-quiet">LUFS, ± 1 LU, true peak at most −1 dBTP</span>
      </label>
      <label className="flex items-center gap-2">
        <span className="w-56">Size, at most</span>
        <input className={FIELD} placeholder="25 MiB" value={size} onChange={(event) => setSize(event.target.value)} />
        {!isSize && <span className="text-wrong text-sm">Type a size such as 10 MB or 25 MiB.</span>}
      </label>
      {NUMBERS.map(([key, label, unit]) => (
        <label key={key} className="flex items-center gap-2">
          <span className="w-56">{label}</span>
          <input
            type="number"
            min={1}
            className={FIELD}
            value={brief[key] ?? ''}
            onChange={({ target: { value } }) => set({ [key]: value === '' ? null : Number(value) })}
          />
          {unit}
        </label>
      ))}
      <Formats brief={brief} onChange={set} />
      <p className="text-quiet text-sm">{describeBrief(asked)}.</p>
      <Button look="main" type="submit" className="self-start" disabled={!isReady}>
        Keep the brief
      </Button>
    </form>
  );
}

interface FormatsProps {
  readonly brief: Brief;
  readonly onChange: (part: Partial<Brief>) => void;
}

function Formats({ brief, onChange }: FormatsProps) {
  const { containers, codecs, soundCodecs, plainName } = brief;
  return (
    <>
      <Some
        label="Containers"
        all={CONTAINERS}
        name={(one) => CONTAINER[one].name}
        taken={containers}
        onChange={(taken) => onChange({ containers: taken })}
      />
      <Some
        label="Picture codecs"
        all={VIDEO_CODECS}
        name={(one) => VIDEO[one].name}
        taken={codecs}
        onChange={(taken) => onChange({ codecs: taken })}
      />
      <Some
        label="Sound codecs"
        all={SOUND_CODECS}
        name={(one) => SOUND[one].name}
        taken={soundCodecs}
        onChange={(taken) => onChange({ soundCodecs: taken })}
      />
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          checked={plainName}
          onChange={(event) => onChange({ plainName: event.target.checked })}
        />
        A file name of letters, digits, hyphens and underscores alone
      </label>
    </>
  );
}

interface SomeProps<Name extends string> {
  readonly label: string;
  readonly all: readonly Name[];
  readonly name: (one: Name) => string;
  readonly taken: readonly Name[] | null;
  readonly onChange: (taken: readonly Name[] | null) => void;
}

/** Some of a list; none chosen means that any will do. */
function Some<Name extends string>({ label, all, name, taken, onChange }: SomeProps<Name>) {
  const toggle = (one: Name) => {
    const next = taken?.includes(one) ? taken.filter((other) => other !== one) : [...(taken ?? []), one];
    onChange(next.length > 0 ? next : null);
  };
  return (
    <fieldset className="flex items-baseline gap-2">
      <legend className="float-left w-56">{label}</legend>
      <span className="flex flex-wrap gap-x-4">
        {all.map((one) => (
          <label key={one} className="flex items-baseline gap-1.5">
            <input type="checkbox" checked={taken?.includes(one) ?? false} onChange={() => toggle(one)} />
            {name(one)}
          </label>
        ))}
      </span>
    </fieldset>
  );
}
