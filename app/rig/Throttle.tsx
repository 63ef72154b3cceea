import { Slider } from "radix-ui";
import { RPM_RANGE } from "../../core/rig/setup";

interface ThrottleProps {
  rpm: number;
  onChange: (rpm: number) => void;
  disabled: boolean;
  idle: number;
}

const STEP = 50;

/** The throttle: a tall lever with idle marked; arrow keys by 50 rpm, page keys by 500. */
export function Throttle({ rpm, onChange, disabled, idle }: ThrottleProps) {
  const share = (at: number): number => (at - RPM_RANGE.low) / (RPM_RANGE.high - RPM_RANGE.low);
  return (
    <div className="flex items-stretch gap-3">
      <Slider.Root
        className="relative flex w-12 touch-none justify-center select-none data-[orientation=vertical]:h-full data-[orientation=vertical]:min-h-44"
        orientation="vertical"
        min={RPM_RANGE.low}
        max={RPM_RANGE.high}
        step={STEP}
        value={[rpm]}
        onValueChange={([value]) => value !== undefined && onChange(value)}
        disabled={disabled}
      >
        <Slider.Track className="border-ink bg-sheet relative h-full w-4 border">
          <Slider.Range className="bg-hair absolute w-full" />
          <span className="border-copper absolute -left-2 w-8 border-t-2" style={{ bottom: `${100 * share(idle)}%` }} />
        </Slider.Track>
        <Slider.Thumb aria-label="Throttle, rpm" className="border-ink bg-ink block h-7 w-12 data-[disabled]:opacity-40" />
      </Slider.Root>
      <div className="flex flex-col justify-between py-1">
        <span className="num text-mute text-sm">{RPM_RANGE.high.toLocaleString("en")}</span>
        <div>
          <p className="num m-0 w-20 text-2xl">{disabled ? "0" : rpm.toLocaleString("en")}</p>
          <p className="text-mute m-0">rpm</p>
        </div>
        <span className="text-mute text-sm">idle {idle.toLocaleString("en")}</span>
      </div>
    </div>
  );
}
