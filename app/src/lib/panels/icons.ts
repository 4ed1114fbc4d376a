import { ArrowsVertical, Cube, DocumentImport, EdgeCluster, Grid, Maximize, Move, ReflectHorizontal, Rotate, TrashCan } from 'carbon-icons-svelte';
import type { Component } from 'svelte';

/** Icons that operations name in their descriptors. */
export const icons: Record<string, Component> = {
  ArrowsVertical,
  Cube,
  DocumentImport,
  EdgeCluster,
  Grid,
  Maximize,
  Move,
  ReflectHorizontal,
  Rotate,
  TrashCan
} as unknown as Record<string, Component>;
