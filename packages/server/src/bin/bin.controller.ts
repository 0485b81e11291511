import { Controller, HttpCode, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { BinService } from './bin.service.js';

@ApiTags('bin')
@Controller('bin')
export class BinController {
  constructor(private readonly bin: BinService) {}

  @Post('empty')
  @HttpCode(200)
  async empty() {
    return { removed: await this.bin.empty() };
  }
}
