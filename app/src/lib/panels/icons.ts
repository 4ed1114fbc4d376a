import {
  ArrowsHorizontal,
  ArrowsVertical,
  CollapseAll,
  Connect,
  Cube,
  Cut,
  DocumentImport,
  Draw,
  EdgeCluster,
  Grid,
  JoinInner,
  LocationCurrent,
  Maximize,
  Move,
  ReflectHorizontal,
  Rotate,
  RowCollapse,
  RowInsert,
  ShrinkScreen,
  TrashCan,
  Upgrade
} from 'carbon-icons-svelte';
import type { Component } from 'svelte';

/** Icons that operations name in their descriptors. */
export const icons: Record<string, Component> = {
  ArrowsHorizontal,
  ArrowsVertical,
  CollapseAll,
  Connect,
  Cube,
  Cut,
  DocumentImport,
  Draw,
  EdgeCluster,
  Grid,
  JoinInner,
  LocationCurrent,
  Maximize,
  Move,
  ReflectHorizontal,
  Rotate,
  RowCollapse,
  RowInsert,
  ShrinkScreen,
  TrashCan,
  Upgrade
} as unknown as Record<string, Component>;
