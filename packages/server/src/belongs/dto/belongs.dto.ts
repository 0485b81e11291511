import type { BelongsRequest } from '@rellin/contract';
import { OriginalRefsDto } from '../../filing/dto/filing.dto.js';

export class BelongsRequestDto extends OriginalRefsDto implements BelongsRequest {}
