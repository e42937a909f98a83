package test.marsh;

import org.springframework.web.bind.annotation.*;

@RestController
@RequestMapping("/stations")
class Stations {
  @GetMapping("/{id}")
  Station one(long id) { return null; }

  @PostMapping(path = "/{id}/readings")
  void add(long id) {}

  @RequestMapping(value = "/all")
  void all() {}
}
