# The same model by lme4, for `npm run bench -- markers` where R has it: fixed effects of markers that sum to 0, scripts random, by REML.
suppressPackageStartupMessages(library(lme4))
folder <- commandArgs(trailingOnly = TRUE)[1]
readings <- read.csv(file.path(folder, "readings.csv"))
readings$script <- factor(readings$script)
readings$marker <- factor(readings$marker)
# As fine as doubles allow, so that what differs is not how early the search stops.
finest <- lmerControl(optimizer = "bobyqa", calc.derivs = FALSE, optCtrl = list(rhoend = 1e-10))
took <- system.time(
  fit <- lmer(mark ~ marker + (1 | script), readings, contrasts = list(marker = contr.sum), control = finest)
)[["elapsed"]]
beta <- fixef(fit)[-1]
effects <- c(beta, -sum(beta))
sds <- as.data.frame(VarCorr(fit))$sdcor
write.csv(data.frame(marker = levels(readings$marker), effect = effects), file.path(folder, "effects.csv"), row.names = FALSE)
cat(took, sds[1], sds[2], "\n")
