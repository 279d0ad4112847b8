'use client';

import { useState } from 'react';
import { useForm, type DefaultValues, type FieldValues, type Path, type UseFormReturn } from 'react-hook-form';
import { Problem } from './api';

/** What is wrong with a form: sentences at its fields, and what concerns none of them. */
export interface Faults {
  readonly all: string | null;
  readonly at: readonly (readonly [field: string, says: string])[];
}

/** A refusal of the API by the fields that it names; whole where it names none that the form has. */
export function faultsOf(problem: Error, fields: readonly string[]): Faults {
  const told = problem instanceof Problem ? problem.fields : {};
  const faults = (told.faults as readonly { path: string; says: string }[] | undefined) ?? [];
  const at = new Map<string, string>();
  for (const { path, says } of faults) {
    const field = path.slice(1);
    if (fields.includes(field) && !at.has(field)) at.set(field, `${says}.`);
  }
  if (typeof told.field === 'string' && fields.includes(told.field)) at.set(told.field, problem.message);
  return { all: at.size > 0 ? null : problem.message, at: [...at] };
}

/**
 * A form whose values the API judges: what it refuses stands at the fields that it names, the first of them is focused, and nothing that was
 * typed is lost. `send` gets the values; what it throws is told.
 */
export function useApiForm<T extends FieldValues>(
  values: DefaultValues<T>,
  send: (values: T, form: UseFormReturn<T>) => Promise<void>,
) {
  const form = useForm<T>({ defaultValues: values });
  const [problem, setProblem] = useState<string | null>(null);
  const { errors, isSubmitting, isDirty } = form.formState;
  const submit = form.handleSubmit(async (typed) => {
    setProblem(null);
    try {
      await send(typed, form);
    } catch (error) {
      const { all, at } = faultsOf(error as Error, Object.keys(typed));
      setProblem(all);
      at.forEach(([field, says], i) => form.setError(field as Path<T>, { message: says }, { shouldFocus: i === 0 }));
    }
  });
  const field = (name: Path<T>) => ({
    registered: form.register(name, { onChange: () => form.clearErrors(name) }),
    error: (errors[name]?.message as string | undefined) ?? null,
  });
  /** Puts values that no field of the browser holds. */
  const put = (part: Partial<T>) => {
    for (const [name, value] of Object.entries(part)) {
      form.clearErrors(name as Path<T>);
      form.setValue(name as Path<T>, value, { shouldDirty: true });
    }
  };
  return { form, field, put, submit, problem, busy: isSubmitting, changed: isDirty };
}
