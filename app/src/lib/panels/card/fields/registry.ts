import type { Field } from '@ulvrin/core';
import type { Component } from 'svelte';
import ChoiceField from './ChoiceField.svelte';
import ColourField from './ColourField.svelte';
import type { FieldProps } from './field.ts';
import NumberField from './NumberField.svelte';
import PartField from './PartField.svelte';
import ProfileField from './ProfileField.svelte';
import SwitchField from './SwitchField.svelte';
import TextField from './TextField.svelte';

/** The control of each kind of field. */
export const fieldKinds: Record<Field['type'], Component<FieldProps>> = {
  number: NumberField,
  switch: SwitchField,
  choice: ChoiceField,
  text: TextField,
  profile: ProfileField,
  part: PartField,
  colour: ColourField
};
