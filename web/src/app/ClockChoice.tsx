import { remember, useHabits } from "../state/habits";
import { Choice } from "../ui/fields";
import { words } from "../words";
import { LOCAL_HOURS } from "../words/clock";

/** Of 24 or 12 hours, everywhere. */
export function ClockChoice() {
  const { hours } = useHabits();
  return (
    <Choice
      name="clock-hours"
      label={words.hours.title}
      value={hours ?? LOCAL_HOURS}
      choices={[
        [24, words.hours.of24],
        [12, words.hours.of12],
      ]}
      onValue={(each) => remember({ hours: each })}
    />
  );
}
