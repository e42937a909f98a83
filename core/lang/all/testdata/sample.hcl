# Copyright Marshgauge. Licence: for tests alone.
# What the stations of the marsh run on.

// TODO: one region for each estuary
terraform {
  required_version = ">= 1.5"

  required_providers {
    tide = {
      source  = "marsh/tide"
      version = "~> 2.0"
    }
    mast = { source = "marsh/mast", version = "1.4.2" }
  }

  backend "store" {
    bucket  = "marsh-state"
    key     = "stations/${terraform.workspace}.state"
    encrypt = true
  }
}

/* Where everything stands. */
provider "tide" {
  region = var.region
  token  = var.token
}

provider "tide" {
  alias  = "north"
  region = "north"
}

# The region that new stations go to.
variable "region" {
  type        = string
  description = "Where stations go"
  default     = "south"

  validation {
    condition     = contains(["north", "south"], var.region)
    error_message = "The region is north or south."
  }
}

variable "token" {
  type      = string
  sensitive = true
}

variable "stations" {
  type = map(object({
    depth    = number
    interval = optional(number, 30)
    names    = list(string)
  }))
  default = {}
}

variable "limits" {
  type    = tuple([number, number])
  default = [0, 4.8]
}

variable "enabled" { default = true }

variable "note" {
  type     = any
  nullable = true
  default  = null
}

locals {
  name   = "marsh-${var.region}"
  count  = length(var.stations)
  deep   = { for k, s in var.stations : k => s.depth if s.depth > 2 }
  names  = [for s in values(var.stations) : upper(s.names[0])]
  all    = flatten([for s in values(var.stations) : s.names])
  mode   = var.enabled ? "on" : "off"
  either = var.enabled && local.count > 0 || var.note != null
  tags = {
    owner  = "tides"
    region = var.region
  }
  script = <<-END
    #!/bin/sh
    # TODO: not a comment
    echo "${local.name}"
  END
  plain = <<TEXT
where the chart begins
TEXT
  first = var.stations["weir"].names[0]
  every = var.stations[*].depth
  sum   = -local.count + 2 * (3 - 1) % 4
  not   = !var.enabled
}

data "tide_basin" "weir" {
  name = "weir"

  filter {
    name   = "depth"
    values = [">2", "<9"]
  }
}

data "tide_basin" "lock" {
  provider = tide.north
  name     = "lock"
}

# One for each station.
resource "tide_gauge" "station" {
  for_each = var.stations

  name     = each.key
  basin    = data.tide_basin.weir.id
  interval = each.value.interval
  labels   = merge(local.tags, { station = each.key })

  sensor {
    kind  = "float"
    depth = each.value.depth
  }

  sensor {
    kind  = "pressure"
    depth = each.value.depth + 0.5

    filter {
      size = 5
    }
  }

  dynamic "alarm" {
    for_each = each.value.names
    iterator = it

    content {
      name  = it.value
      level = var.limits[1]
    }
  }

  lifecycle {
    prevent_destroy = true
    ignore_changes  = [labels, interval]
  }

  provisioner "remote-exec" {
    inline = ["systemctl restart gauge", "gauge check --level ${var.limits[0]}"]

    connection {
      type = "ssh"
      host = self.address
    }
  }
}

resource "tide_mast" "north" {
  count    = 2
  provider = tide.north

  name       = format("%s-%02d", local.name, count.index)
  height     = 12.5e0
  depends_on = [tide_gauge.station]

  timeouts {
    create = "5m"
    delete = "10m"
  }
}

resource "tide_link" "north" {
  from     = tide_mast.north[0].id
  to       = tide_mast.north[1].id
  password = random_password.link.result

  on_failure "retry" "later" {
    after = 30
    times = 3
  }
}

resource "random_password" "link" {
  length  = 24
  special = false
}

resource "tide_store" "levels" {
  name      = "levels"
  size      = 100
  retention = 365 * 24

  table "level" {
    column "at" { type = "time" }
    column "metres" { type = "double" }
    column "station" { type = "text" }

    index "by_time" {
      columns = ["at"]
      unique  = false
    }
  }

  table "alarm" {
    column "since" { type = "time" }
    column "by" { type = "text" }
    column "seen" { type = "bool" }
  }
}

resource "tide_schedule" "nightly" {
  cron    = "0 3 * * *"
  command = "gauge sweep"
  on      = tide_store.levels.id
}

resource "tide_schedule" "hourly" {
  cron    = "0 * * * *"
  command = "gauge tick"
  on      = tide_store.levels.id
}

resource "tide_rule" "spring" {
  when = "level > ${var.limits[1]}"
  then = ["call", "mail"]

  mail {
    to      = ["keeper@marshgauge.test"]
    subject = "High water at %{ if var.enabled }the marsh%{ else }nowhere%{ endif }"
  }

  call {
    number = "+00 1"
    text   = "The water is high."
  }
}

resource "tide_rule" "neap" {
  when = "level < 0.4"
  then = ["mail"]

  mail {
    to      = ["keeper@marshgauge.test"]
    subject = "Low water"
  }
}

module "network" {
  source  = "./modules/network"
  version = "0.3.1"

  region = var.region
  range  = "10.4.0.0/16"

  providers = {
    tide = tide.north
  }
}

module "chart" {
  source = "git::https://example.test/chart.git?ref=v2"
  count  = var.enabled ? 1 : 0

  title  = "Levels"
  height = 240
  colour = "teal"
  lines = [
    { of = "weir", width = 1 },
    { of = "lock", width = 2 },
  ]
}

moved {
  from = tide_gauge.old
  to   = tide_gauge.station
}

import {
  to = tide_store.levels
  id = "store-1"
}

check "health" {
  data "tide_status" "all" {
    name = local.name
  }

  assert {
    condition     = data.tide_status.all.ok
    error_message = "Something is wrong: ${data.tide_status.all.reason}"
  }
}

removed {
  from = tide_mast.south

  lifecycle {
    destroy = false
  }
}

# What others may ask for.
output "stations" {
  value       = { for k, g in tide_gauge.station : k => g.id }
  description = "Ids by name"
}

output "link" {
  value     = tide_link.north.password
  sensitive = true
}

output "store" { value = tide_store.levels.id }

service "collector" {
  image    = "marsh/collector:2.4"
  replicas = 2
  ports    = [7380, 7381]

  env {
    LEVEL_STORE = "levels"
    LOG_LEVEL   = "info"
    WORKERS     = 4
  }

  health {
    path     = "/healthz"
    interval = "10s"
    failures = 3
  }

  volume "levels" {
    path = "/var/lib/levels"
    size = "10G"
  }

  volume "spool" {
    path = "/var/spool/levels"
    size = "1G"
  }

  update {
    strategy = "rolling"
    at_once  = 1
    pause    = "30s"
  }
}

service "charts" {
  image    = "marsh/charts:1.1"
  replicas = 1
  ports    = [8080]

  env {
    COLLECTOR = "http://collector:7380"
    THEME     = "dark"
  }

  health {
    path     = "/"
    interval = "30s"
  }

  limits {
    memory = "256M"
    cpu    = 0.5
  }
}

service "alarms" {
  image    = "marsh/alarms:1.0"
  replicas = 1

  env {
    COLLECTOR = "http://collector:7380"
    MAIL_FROM = "gauge@marshgauge.test"
    QUIET     = false
  }

  limits {
    memory = "64M"
    cpu    = 0.1
  }

  retry "mail" {
    times = 5
    after = "1m"
    grow  = 2.0
  }
}

job "backup" {
  every   = "24h"
  keep    = 14
  command = ["pg_dump", "levels"]

  target "store" {
    bucket = "marsh-backup"
    prefix = "levels/"
  }

  notify {
    on = ["failure"]
    to = "keeper@marshgauge.test"
  }
}

job "prune" {
  every   = "7d"
  command = ["gauge", "prune", "--before", "365d"]

  notify {
    on = ["failure", "success"]
    to = "keeper@marshgauge.test"
  }
}

job "survey" {
  every   = "30d"
  command = ["gauge", "survey"]
  enabled = false
}

policy "readers" {
  allow = ["levels:read", "charts:read"]
  to    = ["everybody"]
}

policy "keepers" {
  allow = ["*"]
  deny  = ["levels:delete"]
  to    = ["keeper@marshgauge.test"]
}

network "marsh" {
  range = "10.4.0.0/16"

  subnet "north" {
    range = "10.4.1.0/24"
    zone  = "n"
  }

  subnet "south" {
    range = "10.4.2.0/24"
    zone  = "s"
  }

  route "out" {
    to  = "0.0.0.0/0"
    via = "gate"
  }

  firewall {
    rule "ssh" {
      port = 22
      from = ["10.4.0.0/16"]
    }

    rule "http" {
      port = 80
      from = ["0.0.0.0/0"]
    }
  }
}

region = "south"
token = "for-tests-alone"
enabled  = true
stations = { weir = { depth = 3, names = ["weir", "old weir"] } }

limits = [0.1, 4.8]

mail "keeper" {
  to   = ["keeper@marshgauge.test"]
  from = "gauge@marshgauge.test"
  body = <<-END
    %{ for s in var.stations ~}
    ${s.name} stands at ${s.level}
    %{ endfor ~}
  END
  retry {
    times = var.enabled ? 3 : var.note == null ? 1 : 0
  }
}

cache {
  path    = "${path.module}/cache"
  size    = "%{ if var.enabled }1G%{ else }0%{ endif } of ${local.name}"
  escaped = "$${not} %%{this} \"quoted\" \u00E9"
  nested {
    deeper { deepest { at = 1 } }
  }
}
# FIXME: the end
