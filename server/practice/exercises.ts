import { shippedProfile } from '@/catalogue/profiles';
import type { ExerciseView } from '@/contract/bench';
import { exercises } from '@/core/circuit/exercises';
import { quantityOf } from '@/core/quantity/quantity';

/** The cabinets to practise on, each with the sensor that stands in it. */
export const exerciseViews = (): ExerciseView[] =>
  exercises.map((exercise) => {
    const { code, name, connection, leads, outputs } = shippedProfile(exercise.sensor)!;
    return {
      exercise,
      profile: { code, name, connection, leads, outputs },
      unit: quantityOf(outputs[0]!.quantity).unit,
    };
  });
