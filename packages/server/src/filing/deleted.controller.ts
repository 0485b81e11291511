import { Body, Controller, Get, HttpCode, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { BinsService } from './bins.service.js';
import { DeletedService } from './deleted.service.js';
import { DeleteRequestDto, ExpungeRequestDto, RestoreRequestDto } from './dto/deleted.dto.js';

@ApiTags('bin')
@Controller('bin/originals')
export class DeletedController {
  constructor(
    private readonly bins: BinsService,
    private readonly deleted: DeletedService,
  ) {}

  /** What lies in the bins of the disk. */
  @Get()
  list() {
    return this.bins.list();
  }

  /** Originals into the bin of their disk; where there is none, that is said and nothing done. */
  @Post()
  @HttpCode(200)
  delete(@Body() body: DeleteRequestDto) {
    return this.deleted.delete(body);
  }

  /** Answers with the clashes where there are any and nothing was chosen. */
  @Post('restore')
  @HttpCode(200)
  restore(@Body() body: RestoreRequestDto) {
    return this.deleted.restore(body);
  }

  /** For good. What a program has open is left, and said. */
  @Post('expunge')
  @HttpCode(200)
  expunge(@Body() body: ExpungeRequestDto) {
    return this.deleted.expunge(body);
  }
}
