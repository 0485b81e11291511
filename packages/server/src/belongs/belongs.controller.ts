import { Body, Controller, HttpCode, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { BelongsService } from './belongs.service.js';
import { BelongsRequestDto } from './dto/belongs.dto.js';

@ApiTags('belongs')
@Controller('belongs')
export class BelongsController {
  constructor(private readonly belongs: BelongsService) {}

  /** The folders where these originals most likely belong together. */
  @Post()
  @HttpCode(200)
  ask(@Body() { originals }: BelongsRequestDto) {
    return this.belongs.ask(originals);
  }
}
