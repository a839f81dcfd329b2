// Records from JSON text.
#include "PACKAGE/json.hpp"
#include "PACKAGE/records.hpp"

#include <gtest/gtest.h>

#include <fstream>
#include <iterator>
#include <string>
#include <vector>

using namespace PACKAGE;

namespace {

std::string bytes(const std::string &name) {
    std::ifstream file("DATA_FOLDER/" + name, std::ios::binary);
    return {std::istreambuf_iterator<char>(file), {}};
}

std::vector<std::string> lines(const std::string &name) {
    std::ifstream file("DATA_FOLDER/" + name);
    std::vector<std::string> all;
    for (std::string line; std::getline(file, line);) {
        all.push_back(line);
    }
    return all;
}

std::string told(const std::string &name) {
    try {
        static_cast<void>(records::read_mark(records::parse(bytes(name))));
        return "none ";
    } catch (const RecordError &error) {
        std::string all;
        for (const RecordProblem &problem : error.problems()) {
            all += (all.empty() ? "" : ", ") + problem.limit + " " + problem.path;
        }
        return all;
    }
}

} // namespace

TEST(OfJson, AFileIsMadeIntoProducts) {
    const auto [marks, problems] = create_all(records::parse(bytes("records.json")), records::read_mark);
    std::vector<std::string> all;
    for (const RecordProblem &problem : problems) {
        all.push_back(problem.to_string());
    }
    EXPECT_EQ(all, lines("problems.txt"));
    std::vector<std::string> written;
    for (const auto &mark : marks) {
        written.push_back(records::write_mark(*mark).to_text());
    }
    EXPECT_EQ(written, lines("written.txt"));
}

TEST(OfJson, WhatNobodyShouldSendIsTold) {
    const auto expected = lines("hostile.txt");
    for (std::size_t at = 0; at < expected.size(); ++at) {
        EXPECT_EQ(told(std::to_string(at) + ".json"), expected[at]) << at;
    }
}

TEST(OfJson, DepthIsBounded) {
    try {
        records::read_plan(records::parse(bytes("deep.json")));
        FAIL() << "it was read";
    } catch (const RecordError &error) {
        for (const RecordProblem &problem : error.problems()) {
            EXPECT_EQ(problem.limit, "depth");
        }
    }
}
