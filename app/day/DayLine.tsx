import { DndContext, type DragEndEvent, KeyboardSensor, PointerSensor, useDraggable, useSensor, useSensors } from "@dnd-kit/core";
import { format } from "date-fns";
import { useRef, useState } from "react";
import type { Planned } from "../../core/day/plan";
import type { Day } from "./day.server";

const MINUTE = 60_000;
/** Times that are set by hand fall on full five minutes. */
const SNAP = 5 * MINUTE;
/** A block narrower than this share of the day has no room for words. */
const WORDY = 0.07;

interface DayLineProps {
  day: Day;
  /** Sets a machine for a time. @param beginsAt ms */
  onSet: (jobId: number, beginsAt: number) => void;
}

/** The day as a line: one row a machine, what was done, is planned and waits; a machine's first work can be dragged to another time. */
export function DayLine({ day: news, onSet }: DayLineProps) {
  // News of the day that comes while a block is in hand would take it out of the hand: the line stands still until it is let go.
  const [inHand, setInHand] = useState<Day>();
  const day = inHand ?? news;
  const letGo = (): void => setInHand(undefined);
  const { begins, ends, plan, machines, done, now } = day;
  const strip = useRef<HTMLDivElement>(null);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }), useSensor(KeyboardSensor));
  const share = (time: number): number => Math.min(1, Math.max(0, (time - begins) / (ends - begins)));
  const rows = machines
    .map((machine) => ({
      machine,
      stretches: plan.stretches.filter(({ jobId }) => jobId === machine.id),
      done: done.find(({ jobId }) => jobId === machine.id),
    }))
    .filter(({ machine, stretches, done: was }) => stretches.length > 0 || was || machine.wait)
    .sort((a, b) => (a.stretches[0]?.from ?? ends) - (b.stretches[0]?.from ?? ends));
  const hours = hoursBetween(begins, ends);
  const onDragEnd = ({ active, delta }: DragEndEvent): void => {
    letGo();
    const width = strip.current?.clientWidth ?? 0;
    const first = plan.stretches.find(({ jobId, mechanic }) => jobId === Number(active.id) && mechanic !== undefined);
    if (!first || width === 0 || Math.abs(delta.x) < 3) return;
    const moved = first.from + (delta.x / width) * (ends - begins);
    onSet(first.jobId, Math.min(ends - SNAP, Math.max(begins, Math.round(moved / SNAP) * SNAP)));
  };
  return (
    <DndContext
      id="day"
      sensors={sensors}
      onDragStart={() => setInHand(news)}
      onDragCancel={letGo}
      onDragEnd={onDragEnd}
      accessibility={{ screenReaderInstructions: { draggable: "Press space, move with the arrow keys, press space to set it for that time." } }}
    >
      <div className="grid grid-cols-[9.5rem_1fr]">
        <span />
        <div ref={strip} className="relative h-6" aria-hidden="true">
          {hours.map((hour) => (
            <span key={hour} className="num text-mute absolute -translate-x-1/2 text-sm" style={{ left: `${100 * share(hour)}%` }} suppressHydrationWarning>
              {format(hour, "H")}
            </span>
          ))}
        </div>
        {rows.map(({ machine, stretches, done: was }) => {
          const first = stretches.find(({ mechanic }) => mechanic !== undefined);
          return (
            <div key={machine.id} className="contents">
              <span className="border-hair truncate border-t py-2 pr-3 font-medium">{machine.name}</span>
              <div className="border-hair relative h-10 border-t">
                {hours.map((hour) => (
                  <span key={hour} aria-hidden="true" className="bg-hair absolute inset-y-0 w-px" style={{ left: `${100 * share(hour)}%` }} />
                ))}
                {was ? (
                  <Block share={share} from={Date.parse(was.from)} to={Math.max(Date.parse(was.to), Date.parse(was.from) + 5 * MINUTE)} look="done" />
                ) : null}
                {machine.wait?.until ? <Block share={share} from={now} to={Date.parse(machine.wait.until)} look="waits" /> : null}
                {stretches.map((stretch) =>
                  stretch === first ? (
                    <First key={stretch.from} stretch={stretch} share={share} pinned={machine.pinned !== null} />
                  ) : (
                    <Block
                      key={`${stretch.from} ${stretch.what}`}
                      share={share}
                      from={stretch.from}
                      to={stretch.to}
                      look={stretch.mechanic === undefined ? "waits" : "planned"}
                      words={stretch.mechanic === undefined ? stretch.title : undefined}
                    />
                  ),
                )}
                {day.isToday ? <span aria-hidden="true" className="bg-copper absolute inset-y-0 w-[3px]" style={{ left: `${100 * share(now)}%` }} /> : null}
              </div>
            </div>
          );
        })}
      </div>
    </DndContext>
  );
}

const LOOKS = {
  done: "bg-ink",
  planned: "border-ink bg-sheet border-2",
  waits: "hatched border-hair border-y",
} as const;

interface BlockProps {
  share: (time: number) => number;
  from: number;
  to: number;
  look: keyof typeof LOOKS;
  words?: string | undefined;
}

function Block({ share, from, to, look, words }: BlockProps) {
  const [left, right] = [share(from), share(to)];
  if (right <= left) return null;
  return (
    <span
      className={`absolute inset-y-1.5 overflow-hidden px-1 text-sm whitespace-nowrap ${LOOKS[look]}`}
      style={{ left: `${100 * left}%`, width: `${100 * (right - left)}%` }}
    >
      {words && right - left > WORDY ? <span className="bg-paper px-1">{words}</span> : null}
    </span>
  );
}

/** A machine's first work: it is dragged to another time. */
function First({ stretch, share, pinned }: { stretch: Planned; share: (time: number) => number; pinned: boolean }) {
  const { attributes, listeners, setNodeRef, transform } = useDraggable({ id: String(stretch.jobId) });
  const [left, right] = [share(stretch.from), share(stretch.to)];
  return (
    <button
      type="button"
      ref={setNodeRef}
      {...attributes}
      {...listeners}
      className={`border-ink bg-sheet absolute inset-y-1.5 min-w-3 touch-none overflow-hidden border-2 px-1 text-left text-sm whitespace-nowrap ${pinned ? "border-dashed" : ""}`}
      style={{ left: `${100 * left}%`, width: `${100 * (right - left)}%`, ...(transform ? { transform: `translateX(${transform.x}px)`, zIndex: 5 } : {}) }}
      aria-label={`${stretch.title}, ${format(stretch.from, "HH:mm")} to ${format(stretch.to, "HH:mm")}${pinned ? ", set by hand" : ""}`}
      suppressHydrationWarning
    >
      {right - left > WORDY ? stretch.title : ""}
    </button>
  );
}

function hoursBetween(begins: number, ends: number): number[] {
  const first = new Date(begins);
  first.setMinutes(0, 0, 0);
  const hours: number[] = [];
  for (let hour = first.getTime(); hour <= ends; hour += 60 * MINUTE) if (hour >= begins) hours.push(hour);
  return hours;
}
