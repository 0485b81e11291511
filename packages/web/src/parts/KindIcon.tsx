import ArticleOutlined from '@mui/icons-material/ArticleOutlined';
import AudiotrackOutlined from '@mui/icons-material/GraphicEq';
import CodeOutlined from '@mui/icons-material/Code';
import DescriptionOutlined from '@mui/icons-material/DescriptionOutlined';
import FolderOutlined from '@mui/icons-material/FolderOutlined';
import ImageOutlined from '@mui/icons-material/ImageOutlined';
import Inventory2Outlined from '@mui/icons-material/Inventory2Outlined';
import InsertDriveFileOutlined from '@mui/icons-material/InsertDriveFileOutlined';
import LinkOutlined from '@mui/icons-material/Link';
import MapOutlined from '@mui/icons-material/MapOutlined';
import MovieOutlined from '@mui/icons-material/MovieOutlined';
import PictureAsPdfOutlined from '@mui/icons-material/PictureAsPdfOutlined';
import PublicOutlined from '@mui/icons-material/Public';
import TableChartOutlined from '@mui/icons-material/TableChartOutlined';
import TerminalOutlined from '@mui/icons-material/Terminal';
import type { Kind } from '@rellin/core/kinds';

const ICONS: Record<Kind, typeof ArticleOutlined> = {
  folder: FolderOutlined,
  program: TerminalOutlined,
  table: TableChartOutlined,
  text: ArticleOutlined,
  document: DescriptionOutlined,
  pdf: PictureAsPdfOutlined,
  picture: ImageOutlined,
  map: MapOutlined,
  sound: AudiotrackOutlined,
  video: MovieOutlined,
  archive: Inventory2Outlined,
  source: CodeOutlined,
  web: PublicOutlined,
  link: LinkOutlined,
  file: InsertDriveFileOutlined,
};

/** The icon of a kind; always beside its word, so it is silent for screen readers. */
export function KindIcon({ kind, size = 18 }: { kind: Kind; size?: number }) {
  const Icon = ICONS[kind];
  return <Icon aria-hidden sx={{ fontSize: size, color: 'var(--second)', flex: 'none' }} />;
}
