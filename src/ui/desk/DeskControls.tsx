import { ToggleGroup } from 'radix-ui';
import { sayDecibels } from '../../core/quality/sayQuality.ts';
import type { FrameMap } from '../../core/timing/frameMap.ts';
import { Button } from '../kit/Button.tsx';
import { PositionField } from '../player/PositionField.tsx';
import type { Timeline } from '../player/timeline.ts';
import type { Mode } from './PictureView.tsx';
import type { Zoom } from './viewport.ts';

interface Props {
  readonly frame: number;
  /** The frame whose pictures are on the desk; another than `frame` while they are decoded. */
  readonly shownFrame: number | null;
  readonly hasFailed: boolean;
  /** Which frames of the master the result shows. */
  readonly frames: FrameMap;
  /** Of the master. */
  readonly timeline: Timeline;
  /** What the frame measures. */
  readonly values: readonly { readonly name: string; readonly decibels: number }[];
  readonly mode: Mode;
  readonly zoom: Zoom;
  readonly onFrame: (frame: number) => void;
  readonly onMode: (mode: Mode) => void;
  readonly onZoom: (zoom: Zoom) => void;
  readonly onWorst: () => void;
}

/** Where on the length, how it is shown, and what this frame measures. */
export function DeskControls(props: Props) {
  const { frame, shownFrame, timeline, frames } = props;
  const goTo = (ofMaster: number) => props.onFrame(frames.toResult(ofMaster));
  const ofMaster = frames.toSource(frame);
  const isWaiting = shownFrame !== frame;
  return (
    <div className="flex flex-wrap items-center gap-x-5 gap-y-1">
      <span className="flex gap-1">
        <PositionField
          label="Timecode"
          value={timeline.name(ofMaster)}
          frame={ofMaster}
          timeline={timeline}
          onFrame={goTo}
          className="w-32"
        />
        <PositionField
          label="Frame"
          value={String(ofMaster)}
          frame={ofMaster}
          digits="frame"
          timeline={timeline}
          onFrame={goTo}
          className="w-20 text-right"
        />
      </span>
      <span className="figure text-measured" data-testid="frame-quality">
        {props.values.map(({ name, decibels }) => `${name} ${sayDecibels(decibels)}`).join(' · ')}
      </span>
      <Button onClick={props.onWorst} hotkey="W">
        Worst frame
      </Button>
      <span aria-live="polite" className="text-quiet text-sm">
        {props.hasFailed ? 'This frame could not be decoded.' : isWaiting ? 'decoding …' : ''}
      </span>
      <span className="ml-auto flex flex-wrap gap-3">
        <Group
          label="How the pictures are laid out"
          value={props.mode}
          choices={[
            ['split', 'Split'],
            ['flip', 'Flip'],
            ['side', 'Side by side'],
          ]}
          onChange={(mode) => props.onMode(mode as Mode)}
        />
        <Group
          label="Enlargement"
          value={props.zoom}
          choices={[
            ['fit', 'Fitted'],
            ['1', '1:1'],
            ['2', '2:1'],
            ['4', '4:1'],
            ['8', '8:1'],
          ]}
          onChange={(zoom) => props.onZoom(zoom as Zoom)}
        />
      </span>
    </div>
  );
}

interface GroupProps {
  readonly label: string;
  readonly value: string;
  readonly choices: readonly (readonly [value: string, text: string])[];
  readonly onChange: (value: string) => void;
}

function Group({ label, value, choices, onChange }: GroupProps) {
  return (
    <ToggleGroup.Root
      type="single"
      aria-label={label}
      value={value}
      onValueChange={(chosen) => chosen && onChange(chosen)}
      className="border-rule flex overflow-hidden rounded border"
    >
      {choices.map(([choice, text]) => (
        <ToggleGroup.Item
          key={choice}
          value={choice}
          className="hover:bg-sunk data-[state=on]:bg-ink data-[state=on]:text-paper px-2.5 py-0.5"
        >
          {text}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}
