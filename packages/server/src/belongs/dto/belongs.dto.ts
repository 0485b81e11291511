import type { BelongsRequest } from '@rellin/contract';
import { OriginalRefsDto } from '../../http/shared.dto.js';

export class BelongsRequestDto extends OriginalRefsDto implements BelongsRequest {}
