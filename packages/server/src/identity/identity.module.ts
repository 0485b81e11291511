import { Module } from '@nestjs/common';
import { DiskModule } from '../disk/disk.module.js';
import { OriginalsModule } from '../originals/originals.module.js';
import { PlacesModule } from '../places/places.module.js';
import { ProgramsModule } from '../programs/programs.module.js';
import { DigestsService } from './digests.service.js';
import { IdentityRepository } from './identity.repository.js';
import { IdentityService } from './identity.service.js';
import { IdentityProbeService } from './identityProbe.service.js';

@Module({
  imports: [DiskModule, OriginalsModule, PlacesModule, ProgramsModule],
  providers: [IdentityRepository, DigestsService, IdentityService, IdentityProbeService],
  exports: [DigestsService, IdentityService],
})
export class IdentityModule {}
