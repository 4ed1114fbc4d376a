import AlignHorizontalCenter from 'carbon-icons-svelte/lib/AlignHorizontalCenter.svelte';
import AlignVerticalCenter from 'carbon-icons-svelte/lib/AlignVerticalCenter.svelte';
import ArrowUpRight from 'carbon-icons-svelte/lib/ArrowUpRight.svelte';
import ArrowsHorizontal from 'carbon-icons-svelte/lib/ArrowsHorizontal.svelte';
import ArrowsVertical from 'carbon-icons-svelte/lib/ArrowsVertical.svelte';
import ChartLineSmooth from 'carbon-icons-svelte/lib/ChartLineSmooth.svelte';
import Chemistry from 'carbon-icons-svelte/lib/Chemistry.svelte';
import CircleDash from 'carbon-icons-svelte/lib/CircleDash.svelte';
import Collaborate from 'carbon-icons-svelte/lib/Collaborate.svelte';
import CollapseAll from 'carbon-icons-svelte/lib/CollapseAll.svelte';
import ColumnDependency from 'carbon-icons-svelte/lib/ColumnDependency.svelte';
import Connect from 'carbon-icons-svelte/lib/Connect.svelte';
import Copy from 'carbon-icons-svelte/lib/Copy.svelte';
import Corner from 'carbon-icons-svelte/lib/Corner.svelte';
import Cube from 'carbon-icons-svelte/lib/Cube.svelte';
import Cut from 'carbon-icons-svelte/lib/Cut.svelte';
import DataShare from 'carbon-icons-svelte/lib/DataShare.svelte';
import DirectionCurve from 'carbon-icons-svelte/lib/DirectionCurve.svelte';
import DirectionMerge from 'carbon-icons-svelte/lib/DirectionMerge.svelte';
import DirectionStraight from 'carbon-icons-svelte/lib/DirectionStraight.svelte';
import DistributeHorizontalCenter from 'carbon-icons-svelte/lib/DistributeHorizontalCenter.svelte';
import DocumentImport from 'carbon-icons-svelte/lib/DocumentImport.svelte';
import Draw from 'carbon-icons-svelte/lib/Draw.svelte';
import EdgeCluster from 'carbon-icons-svelte/lib/EdgeCluster.svelte';
import Fade from 'carbon-icons-svelte/lib/Fade.svelte';
import FitToWidth from 'carbon-icons-svelte/lib/FitToWidth.svelte';
import Grid from 'carbon-icons-svelte/lib/Grid.svelte';
import JoinInner from 'carbon-icons-svelte/lib/JoinInner.svelte';
import JoinOuter from 'carbon-icons-svelte/lib/JoinOuter.svelte';
import Layers from 'carbon-icons-svelte/lib/Layers.svelte';
import LocationCurrent from 'carbon-icons-svelte/lib/LocationCurrent.svelte';
import Maximize from 'carbon-icons-svelte/lib/Maximize.svelte';
import Migrate from 'carbon-icons-svelte/lib/Migrate.svelte';
import Move from 'carbon-icons-svelte/lib/Move.svelte';
import ReflectHorizontal from 'carbon-icons-svelte/lib/ReflectHorizontal.svelte';
import Renew from 'carbon-icons-svelte/lib/Renew.svelte';
import Rotate from 'carbon-icons-svelte/lib/Rotate.svelte';
import RowCollapse from 'carbon-icons-svelte/lib/RowCollapse.svelte';
import RowExpand from 'carbon-icons-svelte/lib/RowExpand.svelte';
import RowInsert from 'carbon-icons-svelte/lib/RowInsert.svelte';
import ShapeExcept from 'carbon-icons-svelte/lib/ShapeExcept.svelte';
import ShapeIntersect from 'carbon-icons-svelte/lib/ShapeIntersect.svelte';
import ShapeJoin from 'carbon-icons-svelte/lib/ShapeJoin.svelte';
import Pin from 'carbon-icons-svelte/lib/Pin.svelte';
import Merge from 'carbon-icons-svelte/lib/Merge.svelte';
import Link from 'carbon-icons-svelte/lib/Link.svelte';
import ShapeUnite from 'carbon-icons-svelte/lib/ShapeUnite.svelte';
import ShrinkScreen from 'carbon-icons-svelte/lib/ShrinkScreen.svelte';
import SortAscending from 'carbon-icons-svelte/lib/SortAscending.svelte';
import SplitScreen from 'carbon-icons-svelte/lib/SplitScreen.svelte';
import SubtractAlt from 'carbon-icons-svelte/lib/SubtractAlt.svelte';
import TextAlignJustify from 'carbon-icons-svelte/lib/TextAlignJustify.svelte';
import TouchInteraction from 'carbon-icons-svelte/lib/TouchInteraction.svelte';
import TrashCan from 'carbon-icons-svelte/lib/TrashCan.svelte';
import Upgrade from 'carbon-icons-svelte/lib/Upgrade.svelte';
import type { Component } from 'svelte';

/** Icons that operations name in their descriptors; imported one by one, as all together are thousands. */
export const icons: Record<string, Component> = {
  AlignHorizontalCenter,
  AlignVerticalCenter,
  ArrowUpRight,
  ArrowsHorizontal,
  ArrowsVertical,
  ChartLineSmooth,
  Chemistry,
  CircleDash,
  Collaborate,
  CollapseAll,
  ColumnDependency,
  Connect,
  Copy,
  Corner,
  Cube,
  Cut,
  DataShare,
  DirectionCurve,
  DirectionMerge,
  DirectionStraight,
  DistributeHorizontalCenter,
  DocumentImport,
  Draw,
  EdgeCluster,
  Fade,
  FitToWidth,
  Grid,
  JoinInner,
  JoinOuter,
  Layers,
  LocationCurrent,
  Maximize,
  Migrate,
  Move,
  ReflectHorizontal,
  Renew,
  Rotate,
  RowCollapse,
  RowExpand,
  RowInsert,
  ShapeExcept,
  ShapeIntersect,
  ShapeJoin,
  Pin,
  Merge,
  Link,
  ShapeUnite,
  ShrinkScreen,
  SortAscending,
  SplitScreen,
  SubtractAlt,
  TextAlignJustify,
  TouchInteraction,
  TrashCan,
  Upgrade
} as unknown as Record<string, Component>;
