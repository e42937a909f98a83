package a;
class X { @GetMapping("/x") void y() {} }
