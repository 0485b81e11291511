import { Controller, Get, Query } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { ChooseService } from './choose.service.js';
import { ChooserQueryDto } from './dto/choose.dto.js';

@ApiTags('choose')
@Controller('choose')
export class ChooseController {
  constructor(private readonly chooser: ChooseService) {}

  @Get('starts')
  starts() {
    return this.chooser.starts();
  }

  @Get('folder')
  folder(@Query() { path, hidden = false }: ChooserQueryDto) {
    return this.chooser.folder(path, hidden);
  }
}
